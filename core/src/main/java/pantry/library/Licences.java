package pantry.library;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import pantry.base.Json;
import pantry.base.NaturalOrder;
import pantry.base.PantryException;

/**
 * Checks licences: expressions of SPDX identifiers (SPDX specification 2.3, annex D), such as {@code CC-BY-4.0} or
 * {@code CC0-1.0 OR MIT}. The identifiers are the published list's, as the package {@code spdx-license-ids} carries it.
 * A house's own licence is written {@code LicenseRef-} and a name.
 */
public final class Licences {
    private static final String LIST = "META-INF/resources/webjars/spdx-license-ids/%s/%s.json";
    private static final String LIST_VERSION = "3.0.23";
    private static final Map<String, String> IDENTIFIERS = identifiers();

    private static final Pattern WORD = Pattern.compile("[A-Za-z0-9.:-]+");

    private Licences() {}

    private static Map<String, String> identifiers() {
        Map<String, String> known = new TreeMap<>();
        for (String list : List.of("index", "deprecated")) {
            String resource = LIST.formatted(LIST_VERSION, list);
            try (InputStream in = Licences.class.getClassLoader().getResourceAsStream(resource)) {
                if (in == null) {
                    throw new IllegalStateException("the list of licences is not on the class path: " + resource);
                }
                String text = new String(in.readAllBytes(), StandardCharsets.UTF_8);
                for (String identifier : Json.read(text, resource, String[].class)) {
                    known.put(identifier.toLowerCase(Locale.ROOT), identifier);
                }
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
        }
        return known;
    }

    /** All identifiers of the published list, sorted. */
    public static List<String> all() {
        return IDENTIFIERS.values().stream().sorted(NaturalOrder.BY_NAME).toList();
    }

    /**
     * Checks an expression.
     *
     * @param expression may be empty: no licence is known
     * @throws PantryException that says what is not understood, and what is meant perhaps
     */
    public static void require(String expression) {
        if (!expression.isBlank()) {
            new Parser(expression).whole();
        }
    }

    /**
     * An expression with its identifiers spelled as on the list; SPDX lets them be written in any case.
     *
     * @throws PantryException as {@link #require} does
     */
    public static String given(String expression) {
        require(expression);
        Matcher word = WORD.matcher(expression.strip());
        return word.replaceAll(found -> {
            String identifier = found.group();
            String known = IDENTIFIERS.get(identifier.toLowerCase(Locale.ROOT));
            return Matcher.quoteReplacement(known == null ? identifier : known);
        });
    }

    /**
     * Identifiers that may be meant, the likeliest first.
     *
     * @param begun what was typed so far of one
     * @param most how many at most
     */
    public static List<String> like(String begun, int most) {
        String folded = folded(begun);
        List<String> all = all();
        return Stream.concat(
                        all.stream().filter(each -> folded(each).startsWith(folded)),
                        all.stream().filter(each -> folded(each).indexOf(folded) > 0))
                .limit(most)
                .toList();
    }

    private static String folded(String identifier) {
        return identifier.toLowerCase(Locale.ROOT).replaceAll("[^a-z0-9]", "");
    }

    /** Whether an expression is one; the empty one is. */
    public static boolean valid(String expression) {
        try {
            require(expression);
            return true;
        } catch (PantryException e) {
            return false;
        }
    }

    /** A recursive descent over the expression's words. */
    private static final class Parser {
        private final String expression;
        private final List<String> words = new ArrayList<>();
        private int at;

        Parser(String expression) {
            this.expression = expression;
            for (String word :
                    expression.replace("(", " ( ").replace(")", " ) ").strip().split("\\s+")) {
                words.add(word);
            }
        }

        void whole() {
            any();
            if (at < words.size()) {
                throw wrong("\"" + words.get(at) + "\" is not expected there; join licences by AND or OR");
            }
        }

        private void any() {
            all();
            while (next("OR")) {
                all();
            }
        }

        private void all() {
            one();
            while (next("AND")) {
                one();
            }
        }

        private void one() {
            if (next("(")) {
                any();
                if (!next(")")) {
                    throw wrong("a closing bracket is missing");
                }
                return;
            }
            licence();
            if (next("WITH")) {
                if (at >= words.size() || !words.get(at).matches("[A-Za-z0-9.-]+")) {
                    throw wrong("WITH needs the name of an exception behind it");
                }
                at++;
            }
        }

        private void licence() {
            if (at >= words.size()) {
                throw wrong("a licence is missing at the end");
            }
            String word = words.get(at++);
            String identifier = word.endsWith("+") ? word.substring(0, word.length() - 1) : word;
            boolean own = identifier.matches("(DocumentRef-[A-Za-z0-9.-]+:)?LicenseRef-[A-Za-z0-9.-]+");
            if (!own && !IDENTIFIERS.containsKey(identifier.toLowerCase(Locale.ROOT))) {
                throw wrong("\"" + word + "\" is not on the SPDX list" + likeliest(identifier));
            }
        }

        private static String likeliest(String identifier) {
            String folded = folded(identifier);
            return IDENTIFIERS.values().stream()
                    .filter(each -> !folded.isEmpty() && folded(each).startsWith(folded))
                    .limit(3)
                    .reduce((a, b) -> a + ", " + b)
                    .map(found -> "; perhaps " + found)
                    .orElse("; a licence of the house is written LicenseRef-Name");
        }

        private boolean next(String word) {
            if (at < words.size() && words.get(at).equals(word)) {
                at++;
                return true;
            }
            return false;
        }

        private PantryException wrong(String what) {
            return new PantryException("the licence \"" + expression + "\" cannot be understood: " + what);
        }
    }
}
