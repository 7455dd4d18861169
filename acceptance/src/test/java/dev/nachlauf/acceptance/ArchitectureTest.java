package dev.nachlauf.acceptance;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.classes;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noMethods;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;
import static org.assertj.core.api.Assertions.assertThat;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.domain.JavaModifier;
import com.tngtech.archunit.core.domain.JavaPackage;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import java.util.List;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;

/** The house's directions, as docs/architecture.md draws them. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class ArchitectureTest {
    /** Each room of the core may use only what stands above it. */
    private static final List<String> ROOMS = List.of(
            "text",
            "problem",
            "value",
            "record",
            "template",
            "function",
            "formula",
            "document",
            "crosswalk",
            "spool",
            "system",
            "source",
            "profile",
            "drift",
            "query",
            "suggest",
            "job",
            "plan",
            "step",
            "load",
            "explain",
            "example",
            "run",
            "issue");

    private static final List<String> FEATURES = List.of(
            "store",
            "background",
            "web",
            "access",
            "environment",
            "look",
            "connection",
            "file",
            "source",
            "shared",
            "job",
            "run",
            "ledger",
            "record",
            "reject",
            "result",
            "notice",
            "crosswalk",
            "retention");

    /** What the build writes for a quick start. */
    private static final Pattern GENERATED = Pattern.compile(".*/[^/]*__[^/]*\\.class");

    private final JavaClasses all = new ClassFileImporter()
            .withImportOption(ImportOption.Predefined.DO_NOT_INCLUDE_TESTS)
            .withImportOption(location -> !location.matches(GENERATED))
            .importPackages(
                    "dev.nachlauf.core",
                    "dev.nachlauf.connectors",
                    "dev.nachlauf.api",
                    "dev.nachlauf.service",
                    "dev.nachlauf.cli");

    @Test
    void noPackagesDependOnEachOtherInACircle() {
        slices().matching("dev.nachlauf.(**)").should().beFreeOfCycles().check(all);
    }

    @Test
    void eachRoomOfTheCoreUsesOnlyWhatStandsAboveIt() {
        for (int room = 0; room < ROOMS.size(); room++) {
            for (String below : ROOMS.subList(room + 1, ROOMS.size())) {
                noClasses()
                        .that()
                        .resideInAPackage("dev.nachlauf.core." + ROOMS.get(room))
                        .should()
                        .dependOnClassesThat()
                        .resideInAPackage("dev.nachlauf.core." + below)
                        .check(all);
            }
        }
    }

    @Test
    void aFeatureKnowsOnlyEarlierOnes() {
        for (int feature = 0; feature < FEATURES.size(); feature++) {
            for (String later : FEATURES.subList(feature + 1, FEATURES.size())) {
                noClasses()
                        .that()
                        .resideInAPackage("dev.nachlauf.service." + FEATURES.get(feature))
                        .should()
                        .dependOnClassesThat()
                        .resideInAPackage("dev.nachlauf.service." + later)
                        .check(all);
            }
        }
    }

    @Test
    void formatsPlacesDatabasesAndMessagesDontKnowEachOther() {
        for (String[] apart : new String[][] {
            {"format", "place"},
            {"format", "database"},
            {"place", "format"},
            {"place", "database"},
            {"database", "format"},
            {"message", "format"},
            {"message", "place"},
            {"message", "database"},
            {"format", "message"},
            {"place", "message"},
            {"database", "message"}
        }) {
            noClasses()
                    .that()
                    .resideInAPackage("dev.nachlauf.connectors." + apart[0] + "..")
                    .should()
                    .dependOnClassesThat()
                    .resideInAPackage("dev.nachlauf.connectors." + apart[1] + "..")
                    .check(all);
        }
    }

    @Test
    void theCoreKnowsNoFrameworkNoDatabaseAndNoOtherModule() {
        noClasses()
                .that()
                .resideInAPackage("dev.nachlauf.core..")
                .should()
                .dependOnClassesThat()
                .resideInAnyPackage(
                        "org.springframework..",
                        "org.hibernate..",
                        "jakarta..",
                        "java.sql..",
                        "org.postgresql..",
                        "java.net..",
                        "dev.nachlauf.api..",
                        "dev.nachlauf.connectors..",
                        "dev.nachlauf.service..",
                        "dev.nachlauf.cli..")
                .check(all);
    }

    @Test
    void connectorsKnowTheCoreOnlyAndNothingKnowsThem() {
        noClasses()
                .that()
                .resideInAPackage("dev.nachlauf.connectors..")
                .should()
                .dependOnClassesThat()
                .resideInAnyPackage(
                        "dev.nachlauf.api..", "dev.nachlauf.service..", "dev.nachlauf.cli..", "org.springframework..")
                .check(all);
        noClasses()
                .that()
                .resideOutsideOfPackage("dev.nachlauf.connectors..")
                .should()
                .dependOnClassesThat()
                .resideInAPackage("dev.nachlauf.connectors..")
                .check(all);
    }

    @Test
    void viewsAreShippedWithoutAnyModuleAndTheClientKnowsNoService() {
        noClasses()
                .that()
                .resideInAPackage("dev.nachlauf.api..")
                .should()
                .dependOnClassesThat()
                .resideInAnyPackage("dev.nachlauf.core..", "dev.nachlauf.service..", "org.springframework..")
                .check(all);
        noClasses()
                .that()
                .resideInAPackage("dev.nachlauf.cli..")
                .should()
                .dependOnClassesThat()
                .resideInAPackage("dev.nachlauf.service..")
                .check(all);
    }

    /** Virtual threads that wait for a database inside of a monitor would keep their carriers from everybody else. */
    @Test
    void noDatabaseIsAskedInsideOfAMonitor() {
        noMethods()
                .that()
                .areDeclaredInClassesThat()
                .resideInAPackage("dev.nachlauf.connectors.database..")
                .should()
                .haveModifier(JavaModifier.SYNCHRONIZED)
                .check(all);
    }

    @Test
    void onlyJacksonThreeIsUsed() {
        noClasses()
                .should()
                .dependOnClassesThat()
                .resideInAnyPackage("com.fasterxml.jackson.core..", "com.fasterxml.jackson.databind..")
                .check(all);
    }

    @Test
    void entitiesStayInsideTheirFeature() {
        classes()
                .that()
                .areAnnotatedWith(jakarta.persistence.Entity.class)
                .should()
                .bePackagePrivate()
                .check(all);
    }

    @Test
    void namesSayTheVariantNotThePattern() {
        noClasses()
                .should()
                .haveSimpleNameEndingWith("Impl")
                .orShould()
                .haveSimpleNameEndingWith("Util")
                .orShould()
                .haveSimpleNameEndingWith("Utils")
                .orShould()
                .haveSimpleNameEndingWith("Helper")
                .orShould()
                .haveSimpleNameEndingWith("Manager")
                .orShould()
                .haveSimpleNameStartingWith("Abstract")
                .orShould()
                .haveSimpleNameStartingWith("Base")
                .check(all);
    }

    @Test
    void everyPackageSaysWhatItIsForInThirtyToAHundredAndTwentyWords() {
        for (JavaPackage room : packages()) {
            java.nio.file.Path source = java.util.stream.Stream.of("api", "core", "connectors", "service", "cli")
                    .map(module -> Installation.TOP.resolve(
                            module + "/src/main/java/" + room.getName().replace('.', '/') + "/package-info.java"))
                    .filter(java.nio.file.Files::exists)
                    .findFirst()
                    .orElseThrow(() -> new AssertionError(room.getName() + " has no package-info.java"));
            String text = Installation.read(source);
            assertThat(text).as(room.getName()).contains("@NullMarked");
            String doc =
                    text.substring(text.indexOf("/**"), text.indexOf("*/")).replaceAll("[*/]|\\{@link|\\{@code|}", " ");
            assertThat(doc.strip().split("\\s+").length).as(room.getName()).isBetween(30, 120);
        }
    }

    private List<JavaPackage> packages() {
        return all.getPackage("dev.nachlauf").getSubpackagesInTree().stream()
                .filter(room -> !room.getClasses().isEmpty())
                .toList();
    }
}
