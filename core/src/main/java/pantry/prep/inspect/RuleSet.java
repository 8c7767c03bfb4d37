package pantry.prep.inspect;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import pantry.base.AtomicFiles;
import pantry.base.IoProblems;
import pantry.base.Json;
import pantry.base.Sha256;
import pantry.library.Library;
import pantry.workpiece.PrepException;
import pantry.workpiece.Workpiece;
import tools.jackson.core.JacksonException;
import tools.jackson.core.JsonParser;
import tools.jackson.core.JsonToken;
import tools.jackson.core.json.JsonFactory;
import tools.jackson.core.json.JsonReadFeature;

/**
 * What a house asks of its assets: for each rule how much it matters, its limits, and where it holds. A readable file
 * in the library, {@value #FILE}; what it does not name is as Pantry has it.
 *
 * @param settings by rule id
 */
public record RuleSet(String name, Map<String, Setting> settings) {
    /** In a library's folder. */
    public static final String FILE = "prep-rules.json";

    public static final RuleSet USUAL = new RuleSet("Usual rules", Map.of());

    /** Counted up where rules change what they find, so that what was kept is found anew. */
    private static final int EDITION = 3;

    /**
     * What a rule set says of one rule.
     *
     * @param severity empty for the rule's own
     * @param limits by name: numbers and texts
     * @param shelves where it holds, with all below them; everywhere where there are none
     * @param kinds of assets that it holds for; all where there are none
     */
    public record Setting(
            Optional<Severity> severity, Map<String, Object> limits, List<String> shelves, List<String> kinds) {
        public static final Setting NONE = new Setting(Optional.empty(), Map.of(), List.of(), List.of());

        public Setting {
            limits = Map.copyOf(limits);
            shelves = List.copyOf(shelves);
            kinds = List.copyOf(kinds);
        }

        boolean holds(Optional<Workpiece.Shelved> place) {
            boolean here = shelves.isEmpty()
                    || place.filter(p -> shelves.stream()
                                    .anyMatch(shelf -> p.asset().shelf().equals(shelf)
                                            || p.asset().shelf().startsWith(shelf + "/")))
                            .isPresent();
            return here
                    && (kinds.isEmpty()
                            || place.filter(p -> kinds.contains(
                                            p.asset().card().kind().word()))
                                    .isPresent());
        }
    }

    public RuleSet {
        settings = Map.copyOf(settings);
    }

    Setting setting(Rule rule) {
        return settings.getOrDefault(rule.id(), Setting.NONE);
    }

    /** How much a rule matters for something; {@code OFF} where it is not asked. */
    public Severity severity(Rule rule, Optional<Workpiece.Shelved> place) {
        Setting setting = setting(rule);
        return setting.holds(place) ? setting.severity().orElse(rule.severity()) : Severity.OFF;
    }

    /** This rule set with another word on one rule. */
    public RuleSet with(Rule rule, Setting setting) {
        Map<String, Setting> changed = new LinkedHashMap<>(settings);
        changed.put(rule.id(), setting);
        return new RuleSet(name, changed);
    }

    /** The rule set of a library: its file, or the usual one where there is none. */
    public static RuleSet of(Library library) {
        Path file = library.root().resolve(FILE);
        return Files.exists(file) ? read(file) : USUAL;
    }

    /** What tells results by this rule set from those by others. */
    public String fingerprint() {
        return Sha256.of((EDITION + complete().text()).getBytes(StandardCharsets.UTF_8))
                .substring(0, 16);
    }

    /** The file's text: what is said of each rule, in the order of the rules. */
    public String text() {
        Map<String, Object> rules = new LinkedHashMap<>();
        for (Rule rule : Rules.ALL) {
            Setting setting = settings.get(rule.id());
            if (setting != null) {
                rules.put(rule.id(), written(setting));
            }
        }
        Map<String, Object> file = new LinkedHashMap<>();
        file.put("name", name);
        file.put("rules", rules);
        return Json.write(file);
    }

    private static Map<String, Object> written(Setting setting) {
        Map<String, Object> fields = new LinkedHashMap<>();
        setting.severity().ifPresent(severity -> fields.put("severity", severity.word()));
        setting.limits().entrySet().stream()
                .sorted(Map.Entry.comparingByKey())
                .forEach(limit -> fields.put(limit.getKey(), limit.getValue()));
        if (!setting.shelves().isEmpty()) {
            fields.put("shelves", setting.shelves());
        }
        if (!setting.kinds().isEmpty()) {
            fields.put("kinds", setting.kinds());
        }
        return fields;
    }

    /** This rule set with every rule named, and every limit: what a house begins with. */
    public RuleSet complete() {
        Map<String, Setting> all = new LinkedHashMap<>();
        for (Rule rule : Rules.ALL) {
            Setting own = setting(rule);
            Map<String, Object> limits = new LinkedHashMap<>();
            rule.limits().forEach(limit -> limits.put(limit.name(), limit.usual()));
            limits.putAll(own.limits());
            all.put(
                    rule.id(),
                    new Setting(
                            Optional.of(own.severity().orElse(rule.severity())), limits, own.shelves(), own.kinds()));
        }
        return new RuleSet(name, all);
    }

    /**
     * Writes it as a file of its own.
     *
     * @throws PrepException where the file cannot be written
     */
    public void write(Path file) {
        try {
            AtomicFiles.write(file, text());
        } catch (IOException e) {
            throw new PrepException(file, null, "the rules cannot be written: " + IoProblems.describe(e), e);
        }
    }

    /**
     * Reads a rule file.
     *
     * @throws PrepException naming the line of what is wrong
     */
    public static RuleSet read(Path file) {
        try {
            return new Reader(file, Files.readString(file)).ruleSet();
        } catch (IOException e) {
            throw new PrepException(file, null, "the rules cannot be read: " + IoProblems.describe(e), e);
        }
    }

    /** Reads token by token, so that everything that is wrong has its line. */
    private static final class Reader {
        private static final JsonFactory FACTORY = JsonFactory.builder()
                .enable(JsonReadFeature.ALLOW_JAVA_COMMENTS)
                .enable(JsonReadFeature.ALLOW_TRAILING_COMMA)
                .build();

        private final Path file;
        private final JsonParser parser;

        Reader(Path file, String text) {
            this.file = file;
            this.parser = FACTORY.createParser(tools.jackson.core.ObjectReadContext.empty(), text);
        }

        RuleSet ruleSet() {
            String name = file.getFileName().toString();
            Map<String, Setting> settings = new LinkedHashMap<>();
            try (parser) {
                expect(parser.nextToken() == JsonToken.START_OBJECT, "a rule file is an object: { \"rules\": { … } }");
                while (parser.nextToken() != JsonToken.END_OBJECT) {
                    String field = field();
                    switch (field) {
                        case "name" -> name = text(parser.nextToken());
                        case "rules" -> rules(settings);
                        default -> throw wrong("\"" + field + "\" is neither \"name\" nor \"rules\"", null);
                    }
                }
            } catch (JacksonException e) {
                throw wrong(e.getOriginalMessage(), e);
            }
            return new RuleSet(name, settings);
        }

        private void rules(Map<String, Setting> settings) {
            expect(parser.nextToken() == JsonToken.START_OBJECT, "rules are written as { \"rule\": … }");
            while (parser.nextToken() != JsonToken.END_OBJECT) {
                String id = field();
                Rule rule = Rules.find(id)
                        .orElseThrow(() -> wrong("there is no rule \"" + id + "\"; see docs/prep.md for all", null));
                settings.put(id, setting(rule, parser.nextToken()));
            }
        }

        private Setting setting(Rule rule, JsonToken token) {
            if (token == JsonToken.VALUE_STRING) {
                return new Setting(Optional.of(severity(token)), Map.of(), List.of(), List.of());
            }
            expect(
                    token == JsonToken.START_OBJECT,
                    "of a rule, its severity is said, or { \"severity\": …, limits, \"shelves\", \"kinds\" }");
            Optional<Severity> severity = Optional.empty();
            Map<String, Object> limits = new LinkedHashMap<>();
            List<String> shelves = List.of();
            List<String> kinds = List.of();
            while (parser.nextToken() != JsonToken.END_OBJECT) {
                String field = field();
                JsonToken value = parser.nextToken();
                switch (field) {
                    case "severity" -> severity = Optional.of(severity(value));
                    case "shelves" -> shelves = texts(value);
                    case "kinds" -> kinds = texts(value);
                    default -> limits.put(field, limit(rule, field, value));
                }
            }
            return new Setting(severity, limits, shelves, kinds);
        }

        private Object limit(Rule rule, String name, JsonToken value) {
            Rule.Limit limit = rule.limits().stream()
                    .filter(known -> known.name().equals(name))
                    .findFirst()
                    .orElseThrow(() -> wrong(
                            "\"" + rule.id() + "\" has no limit \"" + name + "\""
                                    + (rule.limits().isEmpty()
                                            ? ""
                                            : "; it has "
                                                    + String.join(
                                                            ", ",
                                                            rule.limits().stream()
                                                                    .map(Rule.Limit::name)
                                                                    .toList())),
                            null));
            if (limit.usual() instanceof Number) {
                expect(value.isNumeric(), "\"" + name + "\" is a number: " + limit.meaning());
                return parser.getDoubleValue();
            }
            return text(value);
        }

        private Severity severity(JsonToken token) {
            String word = text(token);
            for (Severity severity : Severity.values()) {
                if (severity.word().equals(word.toLowerCase(Locale.ROOT))) {
                    return severity;
                }
            }
            throw wrong("a severity is off, information, caution or wrong, not \"" + word + "\"", null);
        }

        private List<String> texts(JsonToken token) {
            expect(token == JsonToken.START_ARRAY, "a list of texts is expected: [ \"…\" ]");
            List<String> texts = new ArrayList<>();
            for (JsonToken next = parser.nextToken(); next != JsonToken.END_ARRAY; next = parser.nextToken()) {
                texts.add(text(next));
            }
            return texts;
        }

        private String text(JsonToken token) {
            expect(token == JsonToken.VALUE_STRING, "a text in quotes is expected");
            return parser.getString();
        }

        private String field() {
            return parser.currentName();
        }

        private void expect(boolean condition, String what) {
            if (!condition) {
                throw wrong(what, null);
            }
        }

        private PrepException wrong(String what, @Nullable Throwable cause) {
            var place = parser.currentTokenLocation();
            var problem = cause instanceof JacksonException e && e.getLocation() != null ? e.getLocation() : place;
            return new PrepException(file, "line " + problem.getLineNr(), what, cause);
        }
    }
}
