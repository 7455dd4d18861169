package dev.nachlauf.service.connection;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatCode;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.Reach;
import dev.nachlauf.service.NachlaufSettings;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.time.Duration;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** How far connections and their secrets may lead. */
class ReachGuardTest {
    @TempDir
    Path top;

    private Path home;
    private Path lists;
    private Path elsewhere;

    @BeforeEach
    void folders() throws IOException {
        home = Files.createDirectory(top.resolve("state"));
        lists = Files.createDirectory(top.resolve("lists"));
        elsewhere = Files.createDirectory(top.resolve("elsewhere"));
    }

    private NachlaufSettings settings(List<Path> folders, List<String> reaches) {
        Duration any = Duration.ofSeconds(1);
        return new NachlaufSettings(home, List.of(), folders, reaches, any, any, any, any, any, any, 100, Set.of());
    }

    private void folder(Path path, Path... roots) {
        new ReachGuard(settings(List.of(roots), List.of())).require(new Reach.Folder(path));
    }

    private void refused(Path path, Path... roots) {
        assertThatThrownBy(() -> folder(path, roots)).isInstanceOfSatisfying(CannotGoOn.class, e -> {
            assertThat(e.problems().getFirst().code()).isEqualTo(ProblemCode.OUT_OF_REACH);
            assertThat(e.isTemporary()).isFalse();
        });
    }

    @Test
    void foldersLieBelowAStatedRoot() throws IOException {
        Path spring = Files.createDirectory(lists.resolve("spring"));
        assertThatCode(() -> folder(spring, elsewhere, lists)).doesNotThrowAnyException();
        assertThatCode(() -> folder(lists.resolve("not-yet"), lists)).doesNotThrowAnyException();
        refused(spring);
        refused(spring, elsewhere);
        refused(lists.resolve("../elsewhere"), lists);
        refused(top.resolve("lists-of-others"), lists);
    }

    @Test
    void aLinkLeadsNowhereElse() throws IOException {
        refused(Files.createSymbolicLink(lists.resolve("link"), elsewhere), lists);
    }

    @Test
    void theStateFolderIsNeverRead() throws IOException {
        Path secrets = Files.createDirectory(home.resolve("secrets"));
        refused(home, top);
        refused(secrets, top);
        refused(top, top);
        refused(Files.createSymbolicLink(lists.resolve("state"), secrets), lists);
    }

    private void host(String host, String... reaches) {
        new ReachGuard(settings(List.of(), List.of(reaches))).require(new Reach.Host(host));
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "169.254.169.254",
                "[fe80::1]",
                "0.0.0.0",
                "[::]",
                "224.0.0.1",
                "100.100.100.200",
                "[fd00:ec2::254]"
            })
    void addressesAtWhichAMachineTellsAboutItselfAreRefused(String host) {
        assertThatThrownBy(() -> host(host)).isInstanceOf(CannotGoOn.class);
        assertThatThrownBy(() -> host(host, host)).isInstanceOf(CannotGoOn.class);
    }

    @Test
    void hostsMayBeListed() {
        assertThatCode(() -> host("127.0.0.1")).doesNotThrowAnyException();
        assertThatCode(() -> host("127.0.0.1", "localhost", "127.0.0.1")).doesNotThrowAnyException();
        assertThatCode(() -> host("Register.Huts.Example", "*.huts.example")).doesNotThrowAnyException();
        assertThatThrownBy(() -> host("localhost", "*.huts.example")).isInstanceOf(CannotGoOn.class);
        assertThatThrownBy(() -> host("evilhuts.example", "*.huts.example")).isInstanceOf(CannotGoOn.class);
    }

    private void unsafe(String reference) {
        assertThatThrownBy(() -> new EnvironmentSecrets(settings(List.of(), List.of())).resolve(reference))
                .isInstanceOfSatisfying(
                        CannotGoOn.class,
                        e -> assertThat(e.problems().getFirst().code()).isEqualTo(ProblemCode.SECRET_UNSAFE));
    }

    @Test
    void secretsComeFromTheirOwnVariablesAndFolderOnly() throws IOException {
        unsafe("env:NACHLAUF_DB_PASSWORD");
        unsafe("env:PATH");
        unsafe("env:NACHLAUF_SECRET_");
        unsafe("file:/etc/passwd");
        unsafe("file:../token");
        Path secrets = Files.createDirectory(home.resolve("secrets"));
        Path file = Files.writeString(secrets.resolve("register"), "quiet\n");
        Files.setPosixFilePermissions(file, PosixFilePermissions.fromString("rw-r-----"));
        unsafe("file:register");
        Files.setPosixFilePermissions(file, PosixFilePermissions.fromString("rw-------"));
        assertThat(new EnvironmentSecrets(settings(List.of(), List.of())).resolve("file:register"))
                .isEqualTo("quiet");
    }
}
