import java.io.IOException;
import java.math.BigDecimal;
import java.nio.charset.Charset;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;

/**
 * Makes the overnight stays as the old tills of the huts write them: delimited text in Windows-1252 with decimal commas
 * and a closing line with count and total. A few stays hold the mistakes that tills make. Every name is invented. Run it
 * with {@code java demo-data/Tills.java FOLDER}; the same file comes out each time.
 */
final class Tills {
    private static final String[] GUESTS = {
        "Ada Föhrenstein", "Bruno Quellmoos", "Célia Rauchkar", "Dora Übelwand", "Emil Großried", "Fanny Sterngrat", "Gorm Ångkuppe",
        "Hedda Distelegg", "Ivo Tannboden", "Jule Wolkenleiten"
    };
    private static final String[] CATEGORIES = {"member", "guest", "child"};
    private static final int STAYS = 1_200;
    private static final int HUTS = 240;

    private Tills() {}

    public static void main(String[] arguments) throws IOException {
        Random random = new Random(77);
        List<String> lines = new ArrayList<>();
        BigDecimal total = BigDecimal.ZERO;
        for (int n = 1; n <= STAYS; n++) {
            int hut = 1 + random.nextInt(HUTS);
            int nights = 1 + random.nextInt(5);
            String day = "%02d.%02d.2026".formatted(1 + random.nextInt(28), 6 + random.nextInt(3));
            BigDecimal price = BigDecimal.valueOf(nights * (1_800L + random.nextInt(4_000)), 2);
            // huts that are closed are not in the register; H-040 is one of them
            String code = n % 300 == 0 ? "H-040" : "H-%03d".formatted(hut % 40 == 0 ? hut - 1 : hut);
            String arrival = n == 400 ? "31.06.2026" : day;
            String guest = GUESTS[random.nextInt(GUESTS.length)];
            total = total.add(price);
            lines.add(String.join(
                    ";",
                    "S-%05d".formatted(n == 801 ? 800 : n),
                    code,
                    guest,
                    CATEGORIES[random.nextInt(CATEGORIES.length)],
                    arrival,
                    n == 650 ? "-1" : String.valueOf(nights),
                    grouped(price)));
        }
        Path folder = Path.of(arguments[0]);
        Files.createDirectories(folder);
        String text = "stay no;hut;guest;category;arrival;nights;price\r\n" + String.join("\r\n", lines) + "\r\nTOTAL;" + lines.size() + ";"
                + grouped(total) + "\r\n";
        Files.write(folder.resolve("stays-2026.csv"), text.getBytes(Charset.forName("windows-1252")));
    }

    private static String grouped(BigDecimal amount) {
        String[] parts = amount.toPlainString().split("\\.");
        return parts[0].replaceAll("(?<=\\d)(?=(\\d{3})+$)", ".") + "," + parts[1];
    }
}
