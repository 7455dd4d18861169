import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Random;

/**
 * Makes the valley guides' trail survey: XML in which regions hold trails and trails hold sections. Every name is
 * invented. Run it with {@code java demo-data/TrailSurvey.java FOLDER}; the same file comes out each time.
 */
final class TrailSurvey {
    private static final String[] REGIONS = {
        "SEE Seekamm", "LAR Larch Valley", "SRI Southern Ridge", "NEB Nebelgrat", "OST Ostwand", "TAN Tannried", "WEI Weissmoos",
        "HOH Hohe Leiten"
    };
    private static final String[] NAMES = {"Ridge", "Lake", "Pass", "Gorge", "Meadow", "Cairn", "Spring", "Chapel"};
    private static final String[] SURFACES = {"path", "scree", "rock", "road"};
    private static final int TRAILS = 15;

    private TrailSurvey() {}

    public static void main(String[] arguments) throws IOException {
        Random random = new Random(11);
        StringBuilder xml = new StringBuilder("<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n<survey year=\"2026\" guides=\"Valley guides\">\n");
        for (String region : REGIONS) {
            xml.append("  <region code=\"").append(region, 0, 3).append("\">\n    <title>").append(region.substring(4)).append("</title>\n");
            for (int t = 1; t <= TRAILS; t++) {
                String no = region.substring(0, 3) + "-" + "%02d".formatted(t);
                xml.append("    <trail no=\"").append(no).append("\">\n      <name>").append(NAMES[random.nextInt(NAMES.length)])
                        .append(" trail ").append(t).append("</name>\n      <start height=\"").append(600 + random.nextInt(900)).append("\">")
                        .append("H-%03d".formatted(1 + random.nextInt(240))).append("</start>\n      <surveyed>2026-0")
                        .append(4 + random.nextInt(2)).append("-%02d".formatted(1 + random.nextInt(28))).append("</surveyed>\n");
                int sections = 1 + random.nextInt(5);
                for (int s = 1; s <= sections; s++) {
                    xml.append("      <section no=\"").append(s).append("\"><km>").append(1 + random.nextInt(7)).append('.')
                            .append(random.nextInt(10)).append("</km><surface>").append(SURFACES[random.nextInt(SURFACES.length)])
                            .append("</surface><grade>").append(1 + random.nextInt(4)).append("</grade></section>\n");
                }
                xml.append("    </trail>\n");
            }
            xml.append("  </region>\n");
        }
        Path folder = Path.of(arguments[0]);
        Files.createDirectories(folder);
        Files.writeString(folder.resolve("trail-survey-2026.xml"), xml.append("</survey>\n").toString());
    }
}
