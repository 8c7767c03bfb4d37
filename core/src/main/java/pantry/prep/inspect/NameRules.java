package pantry.prep.inspect;

import static pantry.prep.inspect.Rule.Group.NAMES;

import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.regex.PatternSyntaxException;
import org.jspecify.annotations.Nullable;
import pantry.base.Names;
import pantry.workpiece.InspectedPrim;
import pantry.workpiece.PrepException;
import pantry.workpiece.Subject;
import pantry.workpiece.Tidying;

/** How things are called. */
final class NameRules {
    private static final Pattern COPY = Pattern.compile(
            "(?i)^(.*?)(?:[ _.-]*\\(\\d+\\)|[ _.-]+copy[ _.-]*\\d*|[._]\\d{3,}|[ _.-]+\\d+[ _.-]+\\d+)$");
    private static final Pattern EMPTY_WORD = Pattern.compile(
            "(?i)^(object|mesh|node|group|part|shape|cube|box|sphere|plane|cylinder|cone|untitled|default|null|empty|"
                    + "geometry|primitive|surface|polygon|solid|body|component)[ _.-]*\\d*$");
    private static final Pattern FOREIGN = Pattern.compile(".*[^\\p{L}\\p{N} _.()+&',-].*");

    static final List<Rule> ALL = List.of(
            Rule.of(
                    "foreign-name",
                    NAMES,
                    Severity.CAUTION,
                    "Name with signs that not everybody can write",
                    "Other programs replace them, and what refers to the name is lost.",
                    (subject, limits, found) -> named(subject)
                            .filter(item -> FOREIGN.matcher(item.title()).matches()
                                    || item.title().isBlank())
                            .forEach(item -> found.add(
                                    item.path(),
                                    "\"" + item.title() + "\" has signs that not everybody can write",
                                    renaming(item, clean(item.title()))))),
            Rule.of(
                    "copy-number",
                    NAMES,
                    Severity.INFORMATION,
                    "Name of a copy",
                    "Numbers that come from copying say nothing, and grow longer with every copy.",
                    (subject, limits, found) -> named(subject).forEach(item -> {
                        Matcher copy = COPY.matcher(item.title());
                        if (copy.matches() && !copy.group(1).isBlank()) {
                            found.add(
                                    item.path(),
                                    item.title() + " is called as a copy is",
                                    renaming(item, copy.group(1).trim()));
                        }
                    })),
            Rule.of(
                    "empty-name",
                    NAMES,
                    Severity.INFORMATION,
                    "Name that says nothing",
                    "Nobody finds a thing that is called after the tool it was made with.",
                    (subject, limits, found) -> named(subject)
                            .filter(item -> saysNothing(item) && item.parent() != null && Subject.isObject(item))
                            .forEach(item -> found.add(
                                    item.path(),
                                    item.title() + " says nothing about what it is",
                                    renaming(item, telling(item))))),
            Rule.of(
                            "name-prefix",
                            NAMES,
                            Severity.OFF,
                            "Name without the prefix",
                            "In a full scene, the prefix says which room or set a thing belongs to.",
                            NameRules::prefixes)
                    .limit("prefix", "", "what names begin with"),
            Rule.of(
                            "name-pattern",
                            NAMES,
                            Severity.OFF,
                            "Name that is not as the house writes them",
                            "Names that follow one pattern can be found and worked on by it.",
                            NameRules::patterns)
                    .limit("pattern", "[a-z][a-z0-9_]*", "a regular expression for the whole name"),
            Rule.of(
                    "name-clash",
                    NAMES,
                    Severity.CAUTION,
                    "Names that differ only in their capitals",
                    "Some programs and disks take them for the same.",
                    NameRules::clashes));

    private NameRules() {}

    private static java.util.stream.Stream<InspectedPrim> named(Subject subject) {
        return subject.items().filter(item -> {
            String type = item.prim().typeName();
            return !type.equals("Shader")
                    && !type.equals("NodeGraph")
                    && !type.equals("GeomSubset")
                    && item.prim().isDefined();
        });
    }

    private static boolean saysNothing(InspectedPrim item) {
        return EMPTY_WORD.matcher(item.title()).matches();
    }

    private static @Nullable Fix renaming(InspectedPrim item, String title) {
        if (!item.own()) {
            return null;
        }
        return Fix.of("Call it " + title, tidying -> rename(tidying, item, title));
    }

    /** Renames a prim, and what it is shown as where that differs. */
    static void rename(Tidying tidying, InspectedPrim item, String title) {
        tidying.rename(item.path(), Names.identifier(title));
        if (item.prim().text("displayName").isPresent()
                || !tidying.at(item.path()).name().equals(title)) {
            String number = tidying.at(item.path())
                    .name()
                    .substring(Math.min(
                            Names.identifier(title).length(),
                            tidying.at(item.path()).name().length()));
            tidying.setTitle(item.path(), title + number.replace('_', ' '));
        }
    }

    private static String clean(String title) {
        String clean =
                title.replaceAll("[^\\p{L}\\p{N} _.()+&',-]+", " ").trim().replaceAll(" +", " ");
        return clean.isBlank() ? "Part" : clean;
    }

    /** What it is part of, by the nearest name that says something, and what it is made of. */
    private static String telling(InspectedPrim item) {
        String material =
                item.material().map(path -> path.name().replace('_', ' ')).orElse("");
        InspectedPrim above = item.parent();
        while (above != null && above.parent() != null && saysNothing(above)) {
            above = above.parent();
        }
        String whole = above == null ? "" : above.title();
        return (whole + " " + material.toLowerCase(Locale.ROOT)).trim();
    }

    private static void prefixes(Subject subject, Limits limits, Findings found) {
        String prefix = limits.text("prefix");
        if (!prefix.isEmpty()) {
            named(subject)
                    .filter(item -> Subject.isObject(item) && !item.title().startsWith(prefix))
                    .forEach(item -> found.add(
                            item.path(),
                            item.title() + " does not begin with " + prefix,
                            renaming(item, prefix + item.title())));
        }
    }

    private static void patterns(Subject subject, Limits limits, Findings found) {
        Pattern pattern;
        try {
            pattern = Pattern.compile(limits.text("pattern"));
        } catch (PatternSyntaxException e) {
            throw new PrepException("the pattern of the rule name-pattern is none: " + e.getMessage());
        }
        named(subject)
                .filter(item ->
                        Subject.isObject(item) && !pattern.matcher(item.title()).matches())
                .forEach(item -> {
                    String slug = Names.slug(item.title()).replace('-', '_');
                    found.add(
                            item.path(),
                            item.title() + " is not written as " + pattern,
                            pattern.matcher(slug).matches() ? renaming(item, slug) : null);
                });
    }

    private static void clashes(Subject subject, Limits limits, Findings found) {
        for (InspectedPrim parent : subject.items().toList()) {
            Map<String, InspectedPrim> firsts = new HashMap<>();
            for (InspectedPrim child : parent.children()) {
                InspectedPrim first = firsts.putIfAbsent(child.name().toLowerCase(Locale.ROOT), child);
                if (first != null) {
                    found.add(
                            child.path(),
                            child.name() + " and " + first.name() + " differ only in their capitals",
                            List.of(first.path(), child.path()),
                            renaming(child, child.name() + " 2"));
                }
            }
        }
    }
}
