import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;

/**
 * Makes the huts' supply orders to the helicopter: JSON Lines, an order per line with its articles, and the list of
 * articles. A few orders hold mistakes. Every name is invented. Run it with {@code java demo-data/SupplyOrders.java FOLDER}; the same file comes out
 * each time.
 */
final class SupplyOrders {
    private static final String[] ARTICLES = {"gas bottle", "firewood", "flour", "potatoes", "batteries", "lamp oil", "blankets", "rope"};
    private static final int ORDERS = 180;
    private static final int HUTS = 240;

    private SupplyOrders() {}

    public static void main(String[] arguments) throws IOException {
        Random random = new Random(5);
        List<String> lines = new ArrayList<>();
        for (int n = 1; n <= ORDERS; n++) {
            List<String> articles = new ArrayList<>();
            int count = 1 + random.nextInt(4);
            for (int line = 1; line <= count; line++) {
                String drawn = ARTICLES[random.nextInt(ARTICLES.length)];
                String article = n == 30 && line == 1 ? "gas botle" : drawn;
                articles.add("{\"line\":%d,\"article\":\"%s\",\"kg\":%d.%d}"
                        .formatted(line, article, n == 90 && line == 1 ? 0 : 5 + random.nextInt(90), n == 90 && line == 1 ? 0 : random.nextInt(10)));
            }
            int hut = 1 + random.nextInt(HUTS);
            String code = n == 60 ? "H-999" : "H-%03d".formatted(hut % 40 == 0 ? hut - 1 : hut);
            String day = n == 120 ? "\"soon\"" : "\"2026-%02d-%02d\"".formatted(5 + random.nextInt(4), 1 + random.nextInt(28));
            lines.add("{\"order_no\":\"O-%04d\",\"hut\":{\"code\":\"%s\",\"helipad\":%b},\"wanted_by\":%s,\"urgent\":%b,\"lines\":[%s]}"
                    .formatted(n, code, random.nextBoolean(), day, random.nextInt(10) == 0, String.join(",", articles)));
        }
        // the line of the last order was cut off on its way
        String last = lines.removeLast();
        lines.add(last.substring(0, last.length() / 2));
        Path folder = Path.of(arguments[0]);
        Files.createDirectories(folder);
        Files.writeString(folder.resolve("supply-orders-2026.jsonl"), String.join("\n", lines) + "\n");
        StringBuilder list = new StringBuilder("article;article_no;store\n");
        for (int i = 0; i < ARTICLES.length; i++) {
            list.append(ARTICLES[i]).append(';').append(400 + 10 * i).append(';').append(i < 4 ? "valley" : "pass").append('\n');
        }
        Files.writeString(folder.resolve("articles-2026.csv"), list);
    }
}
