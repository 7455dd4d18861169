package dev.nachlauf.core.explain;

import dev.nachlauf.core.explain.Derivation.Translated;
import dev.nachlauf.core.formula.Translation;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** Hears what formulas have translated. For one thread; only while it is told to listen. */
public final class HeardTranslations {
    private final List<Translated> heard = new ArrayList<>();
    private boolean listening;

    /** The same translations, heard. */
    public Map<String, Translation> over(Map<String, Translation> all) {
        Map<String, Translation> over = new HashMap<>();
        all.forEach((name, translation) -> over.put(name, (value, scope) -> {
            String translated = translation.translate(value, scope);
            if (listening) {
                heard.add(new Translated(name, value, scope, translated));
            }
            return translated;
        }));
        return over;
    }

    /** What is translated while something is done, in order, each once. */
    List<Translated> during(Runnable work) {
        heard.clear();
        listening = true;
        try {
            work.run();
        } finally {
            listening = false;
        }
        return heard.stream().distinct().toList();
    }
}
