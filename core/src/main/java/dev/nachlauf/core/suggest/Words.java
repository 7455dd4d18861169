package dev.nachlauf.core.suggest;

import java.text.Normalizer;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** The words of a field's name, each in the one form that all its spellings share. */
final class Words {
    /** The first word of a line is the form; the others are abbreviations and other languages' words for it. */
    private static final Map<String, String> FORMS = Stream.of(
                    "number no nr num numero nummer nro",
                    "code key kurzel kuerzel codice",
                    "name bezeichnung nom nome nombre titel title label",
                    "phone tel telefon telephone telefono mobile mobil handy",
                    "email mail",
                    "price preis prix prezzo precio cost kosten tarif tariff",
                    "amount betrag montant importo sum summe total",
                    "date datum data fecha",
                    "day tag jour giorno",
                    "category kategorie categorie categoria cat kat",
                    "type art typ tipo",
                    "height hohe hoehe altitude altezza elevation seehohe seehoehe",
                    "beds bed betten bett lits lit letti posti schlafplatze",
                    "room raum zimmer chambre stanza",
                    "opens open opening offnet oeffnet offen ouvre ouverture apre apertura",
                    "closes close closing closed schliesst geschlossen ferme fermeture chiude chiusura",
                    "hut hutte huette cabane refuge rifugio",
                    "region gebiet zone regione",
                    "guest gast hote ospite",
                    "nights night nachte naechte nuits nuit notti notte",
                    "arrival arrives anreise ankunft arrivee arrivo",
                    "stay aufenthalt sejour soggiorno ubernachtung uebernachtung",
                    "order bestellung commande ordine auftrag",
                    "line zeile position pos ligne riga",
                    "article artikel articolo item",
                    "weight gewicht poids peso",
                    "season saison stagione",
                    "year jahr annee anno",
                    "winter hiver inverno",
                    "summer sommer ete estate",
                    "licence license lizenz licenza",
                    "warden wart huttenwart guardian gardien custode",
                    "quantity menge anzahl qty quantite quantita count",
                    "urgent dringend eilig urgente",
                    "street strasse str rue via",
                    "city ort stadt town ville citta",
                    "country land pays paese",
                    "comment bemerkung notiz remarque nota note")
            .flatMap(line -> {
                String[] words = line.split(" ");
                return Stream.of(words).map(word -> Map.entry(word, words[0]));
            })
            .collect(Collectors.toUnmodifiableMap(Map.Entry::getKey, Map.Entry::getValue));

    private Words() {}

    /** {@code "Hut no."}, {@code hutNo} and {@code HUETTE_NR} are all hut and number. */
    static List<String> of(String name) {
        String plain = Normalizer.normalize(name.replaceAll("(\\p{Ll})(\\p{Lu})", "$1 $2"), Normalizer.Form.NFD)
                .replaceAll("\\p{M}", "")
                .replace("ß", "ss")
                .toLowerCase(Locale.ROOT);
        List<String> words = new ArrayList<>();
        for (String word : plain.split("[^\\p{L}\\p{N}]+")) {
            if (!word.isEmpty()) {
                words.add(FORMS.getOrDefault(word, word));
            }
        }
        return words;
    }
}
