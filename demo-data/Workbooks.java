import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.format.DateTimeFormatter;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;

/**
 * Makes the demo's workbooks: the wardens' spring list with a sheet per region under a title, with the mistakes that real
 * lists contain; the corrected list of a week later; and the tariffs, guest category by season under a heading of two
 * lines. Every name is invented. Run it with {@code java
 * demo-data/Workbooks.java FOLDER}; the same files come out each time.
 */
final class Workbooks {
    private static final List<String> HEADER = List.of(
            "Hut no.", "name", "category", "height", "beds", "winter room", "opens", "closes", "price", "phone", "warden licence", "status");
    private static final int HEIGHT = 3;
    private static final int BEDS = 4;
    private static final int OPENS = 6;
    private static final int CLOSES = 7;
    private static final int PRICE = 8;
    private static final String[] FIRST = {
        "Falken", "Grau", "Tann", "Nebel", "Silber", "Wolken", "Murmel", "Sonn", "Quell", "Rauch", "Wetter", "Lerchen",
        "Moor", "Stern", "Winter", "Hagel", "Birken", "Distel", "Enzian", "Föhren"
    };
    private static final String[] SECOND = {"kar", "stein", "ried", "grat", "wand", "moos", "boden", "leiten", "kuppe", "egg"};
    /** What the wardens call the categories; the register has numbers. */
    private static final String[] CATEGORIES = {"serviced", "simple", "Self-service", "bivouac"};
    private static final String[] KIND = {"Hut", "House", "Shelter"};
    private static final String[] REGIONS = {
        "Seekamm", "Larch Valley", "Southern Ridge", "Nebelgrat", "Ostwand", "Tannried", "Weissmoos",
        "Hohe Leiten"
    };
    private static final int REGION = 12;
    private static final int HUTS = 240;
    private static final int CLOSED_EVERY = 40;
    private static final int NO_HEIGHT_EVERY = 97;
    private static final int CHANGED_EVERY = 12;
    /** Workbooks count days from here on. */
    private static final LocalDate FIRST_DAY = LocalDate.of(1899, 12, 30);

    private Workbooks() {}

    public static void main(String[] arguments) throws IOException {
        Path folder = Path.of(arguments[0]);
        Files.createDirectories(folder);
        List<String[]> huts = huts();
        write(folder.resolve("spring-list-2026.xlsx"), huts, mistakes());
        List<String[]> later = new ArrayList<>();
        for (int i = 0; i < huts.size(); i++) {
            String[] hut = huts.get(i).clone();
            if (i % CHANGED_EVERY == 5) {
                hut[BEDS] = String.valueOf(Integer.parseInt(hut[BEDS]) + 4);
                hut[PRICE] = hut[PRICE].replace(",50", ",80");
            }
            later.add(hut);
        }
        write(folder.resolve("spring-list-2026-corrected.xlsx"), later, corrected());
        Map<String, String> tariffs = new LinkedHashMap<>();
        tariffs.put("Tariffs", tariffs(false));
        Workbook.write(folder.resolve("tariffs-2026.xlsx"), tariffs);
        tariffs.put("Tariffs", tariffs(true));
        Workbook.write(folder.resolve("tariffs-2026-revised.xlsx"), tariffs);
    }

    /**
     * Members, guests and youths in summer and winter; a hut without a winter room has no winter prices. A later list has
     * another price for members, no prices for youths in one hut, and leaves three huts out.
     */
    private static String tariffs(boolean revised) {
        Random random = new Random(11);
        StringBuilder xml = new StringBuilder(Workbook.HEAD)
                .append("<worksheet xmlns=\"").append(Workbook.MAIN).append("\"><sheetData>")
                .append("<row r=\"1\">").append(text("A1", "Tariffs for the season of 2026")).append("</row>")
                .append("<row r=\"2\">").append(text("B2", "Members")).append(text("D2", "Guests")).append(text("F2", "Youths")).append("</row>")
                .append("<row r=\"3\">").append(text("A3", "hut"));
        for (int i = 1; i <= 6; i++) {
            xml.append(text(address(i, 3), i % 2 == 1 ? "summer" : "winter"));
        }
        xml.append("</row>");
        for (int n = 1; n <= (revised ? 57 : 60); n++) {
            int row = n + 3;
            String code = n == 33 ? "H-901" : "H-%03d".formatted(n * 4 % 40 == 0 ? n * 4 - 1 : n * 4);
            xml.append("<row r=\"").append(row).append("\">").append(text(address(0, row), code));
            boolean winter = random.nextInt(3) == 0;
            int member = 16 + random.nextInt(20) + (revised && n == 5 ? 2 : 0);
            for (int i = 1; i <= (revised && n == 20 ? 4 : 6); i++) {
                int price = i < 3 ? member : i < 5 ? member + 10 : member - 6;
                if (n == 12 && i == 3) {
                    xml.append(text(address(i, row), "on request"));
                } else if (i % 2 == 1 || winter) {
                    xml.append("<c r=\"").append(address(i, row)).append("\"><v>").append(price + (i % 2 == 1 ? 0 : 4)).append(".5</v></c>");
                }
            }
            xml.append("</row>");
        }
        return xml.append("</sheetData><mergeCells count=\"3\"><mergeCell ref=\"B2:C2\"/><mergeCell ref=\"D2:E2\"/><mergeCell ref=\"F2:G2\"/></mergeCells></worksheet>")
                .toString();
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
                CATEGORIES[random.nextInt(4)],
                n % NO_HEIGHT_EVERY == 0 ? "" : n % 2 == 0 ? height / 1000 + "." + String.format("%03d", height % 1000) : String.valueOf(height),
                String.valueOf(8 + random.nextInt(90)),
                winter ? "yes" : "no",
                String.format("%02d.0%d.2026", 1 + random.nextInt(28), 5 + random.nextInt(2)),
                String.format("%02d.%02d.2026", 1 + random.nextInt(28), 9 + random.nextInt(2)),
                String.format("%d,50", 18 + random.nextInt(40)),
                String.format("0664/%04d %03d", 1000 + n, 100 + random.nextInt(900)),
                n % 4 == 0 ? "" : "w-" + (101 + n % 60),
                n % CLOSED_EVERY == 0 ? "closed" : "open",
                REGIONS[n % REGIONS.length]
            });
        }
        return huts;
    }

    /** Ten rows, each with a mistake of its own kind but the last two, which share their code. */
    private static List<String> mistakes() {
        return List.of(
                "H-241;Steinkuppe Hut;simple;1.840;2400;no;01.06.2026;20.09.2026;24,50;0664/2241 100;w-101;open;Seekamm",
                "H-242;Distelried House;serviced;1.620;24;no;31.06.2026;20.09.2026;24,50;0664/2242 100;w-102;open;Larch Valley",
                "H-243;The old customs house above the upper Birkenmoos bridge;simple;1.710;18;no;01.06.2026;20.09.2026;22,50;0664/2243 100;w-103;open;Southern Ridge",
                "H-244;Hagelwand Shelter;Self-service;2.310;12;yes;01.06.2026;20.09.2026;18,50;0664/2244 100;w-104;open;Xarkogel",
                "H-245;Moorleiten Hut;simple;1.450;30;no;20.09.2026;01.06.2026;26,50;0664/2245 100;w-105;open;Nebelgrat",
                ";Winterboden Hut;simple;1.990;22;no;01.06.2026;20.09.2026;24,50;0664/2246 100;w-106;open;Ostwand",
                "H-247;Enzianegg House;lodge;2.050;16;no;01.06.2026;20.09.2026;twenty;0664/2247 100;w-999;open;Tannried",
                "H-248;Sternkar Hut;simple;1.880;#N/A;no;01.06.2026;20.09.2026;24,50;0664/2248 100;w-108;open;Weissmoos",
                "H-249;Föhrenstein Hut;simple;1.760;26;no;01.06.2026;20.09.2026;24,50;0664/2249 100;w-109;open;Hohe Leiten",
                "h-249;Föhrenstein House;simple;1.760;28;no;01.06.2026;20.09.2026;24,50;0664/2250 100;w-109;open;Hohe Leiten");
    }

    private static List<String> corrected() {
        return List.of(
                "H-241;Steinkuppe Hut;simple;1.840;24;no;01.06.2026;20.09.2026;24,50;0664/2241 100;w-101;open;Seekamm",
                "H-242;Distelried House;serviced;1.620;24;no;30.06.2026;20.09.2026;24,50;0664/2242 100;w-102;open;Larch Valley",
                "H-243;Customs House above Birkenmoos;simple;1.710;18;no;01.06.2026;20.09.2026;22,50;0664/2243 100;w-103;open;Southern Ridge",
                "H-244;Hagelwand Shelter;Self-service;2.310;12;yes;01.06.2026;20.09.2026;18,50;0664/2244 100;w-104;open;Hohe Leiten",
                "H-245;Moorleiten Hut;simple;1.450;30;no;01.06.2026;20.09.2026;26,50;0664/2245 100;w-105;open;Nebelgrat",
                "H-246;Winterboden Hut;simple;1.990;22;no;01.06.2026;20.09.2026;24,50;0664/2246 100;w-106;open;Ostwand",
                "H-247;Enzianegg House;simple;2.050;16;no;01.06.2026;20.09.2026;20,00;0664/2247 100;w-107;open;Tannried",
                "H-248;Sternkar Hut;simple;1.880;40;no;01.06.2026;20.09.2026;24,50;0664/2248 100;w-108;open;Weissmoos",
                "H-249;Föhrenstein Hut;simple;1.760;26;no;01.06.2026;20.09.2026;24,50;0664/2249 100;w-109;open;Hohe Leiten");
    }

    /** A sheet per region in the order in which they first occur; rows stand below a title and the names. */
    private static void write(Path file, List<String[]> huts, List<String> more) throws IOException {
        Map<String, List<String[]>> sheets = new LinkedHashMap<>();
        for (String region : REGIONS) {
            sheets.put(region, new ArrayList<>());
        }
        huts.forEach(hut -> sheets.get(hut[REGION]).add(hut));
        for (String row : more) {
            String[] cells = row.split(";");
            sheets.computeIfAbsent(cells[REGION], region -> new ArrayList<>()).add(cells);
        }
        Map<String, String> parts = new LinkedHashMap<>();
        sheets.forEach((region, rows) -> parts.put(region, sheet(region, rows)));
        Workbook.write(file, parts);
    }

    private static String sheet(String region, List<String[]> rows) {
        StringBuilder xml = new StringBuilder(Workbook.HEAD)
                .append("<worksheet xmlns=\"").append(Workbook.MAIN).append("\"><sheetData>")
                .append("<row r=\"1\">").append(text("A1", "Spring list 2026, region " + region)).append("</row>")
                .append("<row r=\"2\">");
        for (int i = 0; i < HEADER.size(); i++) {
            xml.append(text(address(i, 2), HEADER.get(i)));
        }
        xml.append("</row>");
        for (int r = 0; r < rows.size(); r++) {
            xml.append("<row r=\"").append(r + 3).append("\">");
            for (int i = 0; i < HEADER.size(); i++) {
                xml.append(cell(address(i, r + 3), i, rows.get(r)[i], r));
            }
            xml.append("</row>");
        }
        return xml.append("</sheetData><mergeCells count=\"1\"><mergeCell ref=\"A1:L1\"/></mergeCells></worksheet>").toString();
    }

    private static String address(int column, int row) {
        return (char) ('A' + column) + String.valueOf(row);
    }

    private static String text(String address, String text) {
        return "<c r=\"" + address + "\" t=\"inlineStr\"><is><t>" + text.replace("&", "&amp;") + "</t></is></c>";
    }

    /** Numbers and dates mostly as such, sometimes as text: several people have filled in the list. */
    private static String cell(String address, int column, String value, int row) {
        if (value.isEmpty()) {
            return "";
        }
        if (value.startsWith("#")) {
            return "<c r=\"" + address + "\" t=\"e\"><v>" + value + "</v></c>";
        }
        boolean typed = row % 5 != 4;
        if ((column == BEDS || column == HEIGHT) && value.matches("\\d+")) {
            return "<c r=\"" + address + "\"><v>" + value + "</v></c>";
        }
        if (column == PRICE && typed && value.matches("\\d+,\\d+")) {
            return "<c r=\"" + address + "\"><v>" + value.replace(',', '.') + "</v></c>";
        }
        if ((column == OPENS || column == CLOSES) && typed && !value.startsWith("31.06")) {
            LocalDate date = LocalDate.parse(value, DateTimeFormatter.ofPattern("dd.MM.yyyy"));
            return "<c r=\"" + address + "\" s=\"1\"><v>" + ChronoUnit.DAYS.between(FIRST_DAY, date) + "</v></c>";
        }
        return text(address, value);
    }

    /** The parts of a workbook around its sheets (ECMA-376). */
    private static final class Workbook {
        private static final String HEAD = "<?xml version=\"1.0\" encoding=\"UTF-8\" standalone=\"yes\"?>\n";
        private static final String MAIN = "http://schemas.openxmlformats.org/spreadsheetml/2006/main";
        private static final String OFFICE = "http://schemas.openxmlformats.org/officeDocument/2006/relationships";
        private static final String PACKAGE = "http://schemas.openxmlformats.org/package/2006/";
        private static final String TYPE = "application/vnd.openxmlformats-officedocument.spreadsheetml.";

        static void write(Path file, Map<String, String> sheets) throws IOException {
            StringBuilder types = new StringBuilder();
            StringBuilder names = new StringBuilder();
            StringBuilder relations = new StringBuilder();
            int n = 0;
            for (String name : sheets.keySet()) {
                n++;
                types.append(override("/xl/worksheets/sheet" + n + ".xml", "worksheet"));
                names.append("<sheet name=\"").append(name).append("\" sheetId=\"").append(n).append("\" r:id=\"r").append(n).append("\"/>");
                relations.append(relation("r" + n, OFFICE + "/worksheet", "worksheets/sheet" + n + ".xml"));
            }
            try (ZipOutputStream zip = new ZipOutputStream(Files.newOutputStream(file))) {
                part(zip, "[Content_Types].xml", "<Types xmlns=\"" + PACKAGE + "content-types\">"
                        + "<Default Extension=\"rels\" ContentType=\"application/vnd.openxmlformats-package.relationships+xml\"/>"
                        + override("/xl/workbook.xml", "sheet.main") + override("/xl/styles.xml", "styles") + types + "</Types>");
                part(zip, "_rels/.rels", relations(relation("w", OFFICE + "/officeDocument", "xl/workbook.xml")));
                part(zip, "xl/workbook.xml", "<workbook xmlns=\"" + MAIN + "\" xmlns:r=\"" + OFFICE + "\"><sheets>" + names + "</sheets></workbook>");
                part(zip, "xl/_rels/workbook.xml.rels", relations(relations + relation("s", OFFICE + "/styles", "styles.xml")));
                part(zip, "xl/styles.xml", "<styleSheet xmlns=\"" + MAIN + "\"><numFmts count=\"1\"><numFmt numFmtId=\"164\" formatCode=\"dd\\.mm\\.yyyy\"/></numFmts>"
                        + "<fonts count=\"1\"><font/></fonts><fills count=\"1\"><fill/></fills><borders count=\"1\"><border/></borders>"
                        + "<cellStyleXfs count=\"1\"><xf/></cellStyleXfs><cellXfs count=\"2\"><xf/><xf numFmtId=\"164\" applyNumberFormat=\"1\"/></cellXfs></styleSheet>");
                n = 0;
                for (String sheet : sheets.values()) {
                    n++;
                    part(zip, "xl/worksheets/sheet" + n + ".xml", sheet.substring(HEAD.length()));
                }
            }
        }

        private static String override(String part, String type) {
            return "<Override PartName=\"" + part + "\" ContentType=\"" + TYPE + type + "+xml\"/>";
        }

        private static String relation(String id, String type, String target) {
            return "<Relationship Id=\"" + id + "\" Type=\"" + type + "\" Target=\"" + target + "\"/>";
        }

        private static String relations(String relations) {
            return "<Relationships xmlns=\"" + PACKAGE + "relationships\">" + relations + "</Relationships>";
        }

        private static void part(ZipOutputStream zip, String name, String xml) throws IOException {
            ZipEntry entry = new ZipEntry(name);
            entry.setTimeLocal(LocalDateTime.of(2026, 3, 2, 9, 0));
            zip.putNextEntry(entry);
            zip.write((HEAD + xml).getBytes(StandardCharsets.UTF_8));
            zip.closeEntry();
        }
    }
}
