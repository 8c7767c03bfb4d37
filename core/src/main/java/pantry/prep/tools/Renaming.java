package pantry.prep.tools;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.regex.PatternSyntaxException;
import pantry.base.Names;
import pantry.base.Progress;
import pantry.usd.SdfPath;
import pantry.workpiece.DisplayText;
import pantry.workpiece.InspectedPrim;
import pantry.workpiece.PrepException;
import pantry.workpiece.Subject;
import pantry.workpiece.Tidying;
import pantry.workpiece.Workpiece;

/**
 * New names for many things by one pattern.
 *
 * @param pattern the whole name, with words in angle brackets that stand for something: {@code <name>} for the present
 *     name, {@code <kind>}, {@code <shelf>}, {@code <parent>}, and {@code <1>}, {@code <01>} or {@code <001>} for a
 *     number that is padded so and counts from there
 * @param find what is replaced in the present name before; nothing where empty
 * @param with what takes its place; of an expression, {@code $1} is the first group
 * @param expression whether {@code find} is a regular expression
 * @param letters what becomes of capitals
 */
public record Renaming(String pattern, String find, String with, boolean expression, Letters letters) {
    /** Changes nothing. */
    public static final Renaming NONE = new Renaming("<name>", "", "", false, Letters.AS_THEY_ARE);

    private static final Pattern PLACE = Pattern.compile("<([^<>]*)>");

    /** What becomes of capitals. */
    public enum Letters {
        AS_THEY_ARE("as they are"),
        SMALL("small"),
        CAPITAL("capital"),
        WORDS("Capital at Each Word");

        private final String word;

        Letters(String word) {
            this.word = word;
        }

        public String word() {
            return word;
        }

        String of(String text) {
            return switch (this) {
                case AS_THEY_ARE -> text;
                case SMALL -> text.toLowerCase(Locale.ROOT);
                case CAPITAL -> text.toUpperCase(Locale.ROOT);
                case WORDS -> {
                    Matcher word =
                            Pattern.compile("(^|[^\\p{L}\\p{N}'])(\\p{L})").matcher(text);
                    yield word.replaceAll(found -> Matcher.quoteReplacement(
                            found.group(1) + found.group(2).toUpperCase(Locale.ROOT)));
                }
            };
        }
    }

    /**
     * One thing before and after.
     *
     * @param wanted the name as the pattern gives it
     * @param after the name that it gets: a number is added where another has the wanted one
     */
    public record Line(SdfPath path, String before, String wanted, String after) {
        public boolean clash() {
            return !wanted.equals(after);
        }

        public boolean changes() {
            return !before.equals(after);
        }
    }

    /**
     * The names that objects of a workpiece would get.
     *
     * @throws PrepException where the pattern or the expression is none
     */
    public List<Line> lines(Workpiece piece, List<SdfPath> paths) {
        Subject subject = new Subject(piece, Progress.NONE);
        List<InspectedPrim> items = paths.stream()
                .map(path -> subject.item(path)
                        .orElseThrow(() -> new PrepException(piece.source(), "there is no object at <" + path + ">")))
                .toList();
        Map<SdfPath, Set<String>> taken = new HashMap<>();
        Set<SdfPath> renamed = new HashSet<>(paths);
        List<Line> lines = new ArrayList<>();
        String shelf = piece.shelved().map(place -> place.asset().shelf()).orElse("");
        for (int i = 0; i < items.size(); i++) {
            InspectedPrim item = items.get(i);
            Set<String> others = taken.computeIfAbsent(item.path().parent(), parent -> {
                Set<String> names = new HashSet<>();
                List<InspectedPrim> siblings =
                        item.parent() == null ? subject.roots() : item.parent().children();
                siblings.stream()
                        .filter(sibling -> !renamed.contains(sibling.path()))
                        .forEach(sibling -> names.add(Names.identifier(sibling.title())));
                return names;
            });
            String wanted = name(item, shelf, i);
            String after = Names.free(wanted, " ", name -> others.contains(Names.identifier(name)));
            others.add(Names.identifier(after));
            lines.add(new Line(item.path(), item.title(), wanted, after));
        }
        return lines;
    }

    /** What is usually renamed: objects below the root, but no materials and no shared shapes. */
    public static List<SdfPath> usual(Workpiece piece) {
        return new Subject(piece, Progress.NONE)
                .objects()
                .filter(item -> item.parent() != null && item.own())
                .map(InspectedPrim::path)
                .toList();
    }

    private String name(InspectedPrim item, String shelf, int number) {
        String name = replaced(item.title());
        Map<String, String> words = new LinkedHashMap<>();
        words.put("name", name);
        words.put("kind", kind(item));
        words.put("shelf", shelf.substring(shelf.lastIndexOf('/') + 1));
        words.put("parent", item.parent() == null ? "" : item.parent().title());
        String whole = PLACE.matcher(pattern).replaceAll(place -> {
            String word = place.group(1);
            if (word.matches("\\d{1,9}")) {
                return String.format(Locale.ROOT, "%0" + word.length() + "d", Integer.parseInt(word) + number);
            }
            String value = words.get(word);
            if (value == null) {
                throw new PrepException(
                        "a pattern has <name>, <kind>, <shelf>, <parent> or a number such as <01>, not <" + word + ">");
            }
            return Matcher.quoteReplacement(value);
        });
        String lettered = letters.of(whole).trim();
        if (lettered.isEmpty()) {
            throw new PrepException("a name cannot be empty; " + item.title() + " would be");
        }
        return lettered;
    }

    private String replaced(String name) {
        if (find.isEmpty()) {
            return name;
        }
        if (!expression) {
            return name.replace(find, with);
        }
        try {
            return Pattern.compile(find).matcher(name).replaceAll(with);
        } catch (PatternSyntaxException e) {
            throw new PrepException(
                    "\"" + find + "\" is no expression: " + e.getDescription() + " at sign " + (e.getIndex() + 1));
        } catch (IllegalArgumentException | IndexOutOfBoundsException e) {
            throw new PrepException("\"" + with + "\" cannot take its place: " + e.getMessage());
        }
    }

    /** What a thing is, in a word. */
    static String kind(InspectedPrim item) {
        String type = item.prim().typeName();
        if (item.isInstance()) {
            return "instance";
        }
        if (type.endsWith("Light")) {
            return "light";
        }
        return switch (type) {
            case "Xform", "Scope", "" -> "group";
            case "Mesh" -> "mesh";
            default -> type.toLowerCase(Locale.ROOT);
        };
    }

    /** Gives objects their new names, as one change. */
    public static void apply(Workpiece piece, List<Line> lines) {
        List<Line> changing = lines.stream().filter(Line::changes).toList();
        Tidying.change(piece, "Rename " + DisplayText.count(changing.size(), "object"), tidying -> {
            // Through names that nobody has, so that things can exchange theirs.
            for (Line line : changing) {
                tidying.rename(line.path(), Names.identifier(line.after()) + "_to_be_named");
            }
            for (Line line : changing) {
                tidying.rename(line.path(), Names.identifier(line.after()));
                if (tidying.at(line.path()).name().equals(line.after())) {
                    tidying.edits().clearField(tidying.at(line.path()), "displayName");
                } else {
                    tidying.setTitle(line.path(), line.after());
                }
            }
        });
    }
}
