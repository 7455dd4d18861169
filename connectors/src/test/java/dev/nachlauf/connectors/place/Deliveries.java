package dev.nachlauf.connectors.place;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.system.HoldsFiles;
import dev.nachlauf.core.system.TakesFiles;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;

/** What every place has to do with a file that is delivered to it. */
public final class Deliveries {
    private Deliveries() {}

    /**
     * It is there whole under its name, and takes the place of what was there.
     *
     * @param folder what the place shows
     * @param local a folder of the test's own
     */
    public static void check(HoldsFiles place, Path folder, Path local) throws IOException {
        Path content = Files.writeString(local.resolve("made"), "first");
        TakesFiles takes = (TakesFiles) place;
        takes.put("out-1.txt", content);
        assertThat(folder.resolve("out-1.txt")).hasContent("first");
        takes.put("out-1.txt", Files.writeString(content, "second, longer"));
        assertThat(folder.resolve("out-1.txt")).hasContent("second, longer");
        assertThat(place.find(".out*")).as("nothing unfinished is left").isEmpty();
        assertThatThrownBy(() -> takes.put("../out.txt", content))
                .isInstanceOf(CannotGoOn.class)
                .hasMessageContaining("under the name ../out.txt");
        Files.delete(folder.resolve("out-1.txt"));
    }
}
