import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;

/**
 * Makes the demo's files: the wardens' spring list with the mistakes that real lists contain, and the corrected list of
 * a week later. Every name is invented. Run it with {@code java demo-data/SpringList.java FOLDER}; the same files come out
 * each time.
 */
final class SpringList {
    private static final String HEADER =
            "Hut no.;name;region;category;height;beds;winter room;opens;closes;price;phone;warden licence;status";
    private static final String[] FIRST = {
        "Falken", "Grau", "Tann", "Nebel", "Silber", "Wolken", "Murmel", "Sonn", "Quell", "Rauch", "Wetter", "Lerchen",
        "Moor", "Stern", "Winter", "Hagel", "Birken", "Distel", "Enzian", "Föhren"
    };
    private static final String[] SECOND = {"kar", "stein", "ried", "grat", "wand", "moos", "boden", "leiten", "kuppe", "egg"};
    private static final String[] KIND = {"Hut", "House", "Shelter"};
    private static final String[] REGIONS = {"see", "lar", "sri", "neb", "ost", "tan", "wei", "hoh"};
    private static final int HUTS = 240;
    private static final int CLOSED_EVERY = 40;
    private static final int CHANGED_EVERY = 12;

    private SpringList() {}

    public static void main(String[] arguments) throws IOException {
        Path folder = Path.of(arguments[0]);
        Files.createDirectories(folder);
        List<String[]> huts = huts();
        write(folder.resolve("spring-list-2026.csv"), huts, mistakes());
        List<String[]> later = new ArrayList<>();
        for (int i = 0; i < huts.size(); i++) {
            String[] hut = huts.get(i).clone();
            if (i % CHANGED_EVERY == 5) {
                hut[5] = String.valueOf(Integer.parseInt(hut[5]) + 4);
                hut[9] = hut[9].replace(",50", ",80");
            }
            later.add(hut);
        }
        write(folder.resolve("spring-list-2026-corrected.csv"), later, corrected());
    }

    private static List<String[]> huts() {
        Random random = new Random(2026);
        List<String[]> huts = new ArrayList<>();
        for (int n = 1; n <= HUTS; n++) {
            String name = FIRST[n % FIRST.length] + SECOND[(n / FIRST.length + n) % SECOND.length] + " " + KIND[n % KIND.length];
            String code = (n % 3 == 0 ? "h-" : "H-") + String.format("%03d", n);
            int height = 1200 + random.nextInt(1900);
            boolean winter = random.nextInt(3) == 0;
            huts.add(new String[] {
                code,
                name,
                REGIONS[n % REGIONS.length],
                String.valueOf(1 + random.nextInt(4)),
                height >= 1000 && n % 2 == 0 ? height / 1000 + "." + String.format("%03d", height % 1000) : String.valueOf(height),
                String.valueOf(8 + random.nextInt(90)),
                winter ? "yes" : "no",
                String.format("%02d.0%d.2026", 1 + random.nextInt(28), 5 + random.nextInt(2)),
                String.format("%02d.%02d.2026", 1 + random.nextInt(28), 9 + random.nextInt(2)),
                String.format("%d,50", 18 + random.nextInt(40)),
                String.format("0664/%04d %03d", 1000 + n, 100 + random.nextInt(900)),
                n % 4 == 0 ? "" : "w-" + (101 + n % 60),
                n % CLOSED_EVERY == 0 ? "closed" : "open"
            });
        }
        return huts;
    }

    /** Ten rows, each with a mistake of its own kind but the last two, which share their code. */
    private static List<String> mistakes() {
        return List.of(
                "H-241;Steinkuppe Hut;see;2;1.840;2400;no;01.06.2026;20.09.2026;24,50;0664/2241 100;w-101;open",
                "H-242;Distelried House;lar;1;1.620;24;no;31.06.2026;20.09.2026;24,50;0664/2242 100;w-102;open",
                "H-243;The old customs house above the upper Birkenmoos bridge;sri;2;1.710;18;no;01.06.2026;20.09.2026;22,50;0664/2243 100;w-103;open",
                "H-244;Hagelwand Shelter;xka;3;2.310;12;yes;01.06.2026;20.09.2026;18,50;0664/2244 100;w-104;open",
                "H-245;Moorleiten Hut;neb;2;1.450;30;no;20.09.2026;01.06.2026;26,50;0664/2245 100;w-105;open",
                ";Winterboden Hut;ost;2;1.990;22;no;01.06.2026;20.09.2026;24,50;0664/2246 100;w-106;open",
                "H-247;Enzianegg House;tan;7;2.050;16;no;01.06.2026;20.09.2026;twenty;0664/2247 100;w-999;open",
                "H-248;Sternkar Hut;wei;2;1.880",
                "H-249;Föhrenstein Hut;hoh;2;1.760;26;no;01.06.2026;20.09.2026;24,50;0664/2249 100;w-109;open",
                "h-249;Föhrenstein House;hoh;2;1.760;28;no;01.06.2026;20.09.2026;24,50;0664/2250 100;w-109;open");
    }

    private static List<String> corrected() {
        return List.of(
                "H-241;Steinkuppe Hut;see;2;1.840;24;no;01.06.2026;20.09.2026;24,50;0664/2241 100;w-101;open",
                "H-242;Distelried House;lar;1;1.620;24;no;30.06.2026;20.09.2026;24,50;0664/2242 100;w-102;open",
                "H-243;Customs House above Birkenmoos;sri;2;1.710;18;no;01.06.2026;20.09.2026;22,50;0664/2243 100;w-103;open",
                "H-244;Hagelwand Shelter;hoh;3;2.310;12;yes;01.06.2026;20.09.2026;18,50;0664/2244 100;w-104;open",
                "H-245;Moorleiten Hut;neb;2;1.450;30;no;01.06.2026;20.09.2026;26,50;0664/2245 100;w-105;open",
                "H-246;Winterboden Hut;ost;2;1.990;22;no;01.06.2026;20.09.2026;24,50;0664/2246 100;w-106;open",
                "H-247;Enzianegg House;tan;2;2.050;16;no;01.06.2026;20.09.2026;20,00;0664/2247 100;w-107;open",
                "H-248;Sternkar Hut;wei;2;1.880;40;no;01.06.2026;20.09.2026;24,50;0664/2248 100;w-108;open",
                "H-249;Föhrenstein Hut;hoh;2;1.760;26;no;01.06.2026;20.09.2026;24,50;0664/2249 100;w-109;open");
    }

    private static void write(Path file, List<String[]> huts, List<String> more) throws IOException {
        StringBuilder text = new StringBuilder(HEADER).append('\n');
        int next = 0;
        for (int i = 0; i < huts.size(); i++) {
            text.append(String.join(";", huts.get(i))).append('\n');
            if (i % 24 == 11 && next < more.size()) {
                text.append(more.get(next++)).append('\n');
            }
        }
        while (next < more.size()) {
            text.append(more.get(next++)).append('\n');
        }
        Files.writeString(file, text);
    }
}
