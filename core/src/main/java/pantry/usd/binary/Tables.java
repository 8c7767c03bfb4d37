package pantry.usd.binary;

import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import pantry.usd.SdfPath;
import pantry.usd.UsdException;

/** The tables of a file: what its fields, paths and specs are, by number. */
final class Tables {
    /** Deeper nesting of paths than any honest file has; guards the call stack of whoever walks the prims. */
    private static final int DEEPEST = 1024;

    private static final int OLDEST = 4;
    private static final int NEWEST = 11;

    private record Section(String name, long start, long size) {}

    final int minorVersion;
    private final Bytes in;
    private final String[] tokens;
    private final int[] strings;
    private final int[] fieldNames;
    private final long[] fieldValues;
    private final int[] fieldSets;

    /** For each path: the path above it (-1 for the root), its last element as a token, whether that is a property. */
    private final int[] parents;

    private final int[] elements;
    private final boolean[] properties;
    private final @Nullable SdfPath[] paths;

    final int[] specPaths;
    final int[] specFieldSets;
    final int[] specTypes;

    Tables(Bytes in) {
        this.in = in;
        this.minorVersion = version(in);
        Map<String, Section> sections = sections(in);
        tokens = tokens(section(sections, "TOKENS"));
        Bytes at = section(sections, "STRINGS");
        int count = at.count(4);
        strings = new int[count];
        for (int i = 0; i < count; i++) {
            strings[i] = at.integer();
        }
        at = section(sections, "FIELDS");
        count = tableCount(at);
        fieldNames = Packing.integers(at, count);
        byte[] values = Packing.unpack(at, at.whole(), count * 8L);
        if (values.length != count * 8) {
            throw at.problem(count + " fields are announced, but values for " + values.length / 8 + " are there");
        }
        fieldValues = new long[count];
        ByteBuffer.wrap(values).order(ByteOrder.LITTLE_ENDIAN).asLongBuffer().get(fieldValues);
        at = section(sections, "FIELDSETS");
        fieldSets = Packing.integers(at, tableCount(at));
        at = section(sections, "PATHS");
        int pathCount = tableCount(at);
        count = tableCount(at);
        int[] numbers = Packing.integers(at, count);
        int[] names = Packing.integers(at, count);
        int[] jumps = Packing.integers(at, count);
        // All are coded but for one that may stand for an empty path.
        if (count > pathCount || pathCount > count + 1) {
            throw at.problem(pathCount + " paths are announced, but " + count + " coded");
        }
        parents = new int[pathCount];
        elements = new int[pathCount];
        properties = new boolean[pathCount];
        paths = new SdfPath[pathCount];
        link(at, numbers, names, jumps);
        at = section(sections, "SPECS");
        count = tableCount(at);
        specPaths = Packing.integers(at, count);
        specFieldSets = Packing.integers(at, count);
        specTypes = Packing.integers(at, count);
    }

    private static int version(Bytes in) {
        if (in.size() < 88 || !new String(in.bytes(8), StandardCharsets.ISO_8859_1).equals("PXR-USDC")) {
            throw in.at(0).problem("expected a binary layer, which begins with PXR-USDC");
        }
        int major = in.unsignedByte();
        int minor = in.unsignedByte();
        if (major != 0 || minor < OLDEST || minor > NEWEST) {
            throw in.problem("version " + major + "." + minor + " of the binary format; versions 0." + OLDEST + " to 0."
                    + NEWEST + " are read");
        }
        return minor;
    }

    private static Map<String, Section> sections(Bytes in) {
        Bytes at = in.at(in.at(16).whole());
        int count = at.count(32);
        if (count > 64) {
            throw at.problem(count + " sections are more than a layer has");
        }
        Map<String, Section> sections = new HashMap<>();
        for (int i = 0; i < count; i++) {
            String name = new String(at.bytes(16), StandardCharsets.ISO_8859_1);
            name = name.indexOf('\0') < 0 ? name : name.substring(0, name.indexOf('\0'));
            Section section = new Section(name, at.whole(), at.whole());
            if (section.start < 0
                    || section.size < 0
                    || section.start > in.size()
                    || section.size > in.size() - section.start) {
                throw at.problem("the section " + name + " leads out of the file");
            }
            if (sections.put(name, section) != null) {
                throw at.problem("there are two sections " + name);
            }
        }
        List<Section> inOrder = sections.values().stream()
                .sorted(Comparator.comparingLong(Section::start))
                .toList();
        for (int i = 1; i < inOrder.size(); i++) {
            Section before = inOrder.get(i - 1);
            if (before.start + before.size > inOrder.get(i).start) {
                throw in.at(inOrder.get(i).start)
                        .problem("the sections " + before.name + " and " + inOrder.get(i).name + " overlap");
            }
        }
        return sections;
    }

    private Bytes section(Map<String, Section> sections, String name) {
        Section section = sections.get(name);
        if (section == null) {
            throw in.at(0).problem("there is no section " + name);
        }
        return in.at(section.start);
    }

    /** A count of numbers of which four fit into a byte before that is packed with LZ4. */
    private static int tableCount(Bytes at) {
        long start = at.position();
        long count = at.whole();
        if (count < 0 || count > (at.size() - at.position()) * 1020 || count > Integer.MAX_VALUE / 8) {
            throw at.at(start)
                    .problem("a count of " + Long.toUnsignedString(count) + " is more than the file can hold");
        }
        return (int) count;
    }

    private static String[] tokens(Bytes at) {
        int count = tableCount(at);
        long plainSize = at.whole();
        if (plainSize < count || plainSize > Integer.MAX_VALUE - 8) {
            throw at.problem(count + " tokens cannot stand in " + Long.toUnsignedString(plainSize) + " bytes");
        }
        byte[] text = Packing.unpack(at, at.whole(), plainSize);
        List<String> tokens = new ArrayList<>();
        int from = 0;
        for (int i = 0; i < text.length; i++) {
            if (text[i] == 0) {
                tokens.add(new String(text, from, i - from, StandardCharsets.UTF_8));
                from = i + 1;
            }
        }
        if (tokens.size() != count) {
            throw at.problem(count + " tokens are announced, " + tokens.size() + " are there");
        }
        return tokens.toArray(String[]::new);
    }

    /**
     * Paths are coded depth first: the number of each, its last element, and a jump: -2 nothing follows, -1 its first
     * child follows, 0 its next sibling follows, else its child follows and its sibling is so many further on.
     */
    private void link(Bytes at, int[] numbers, int[] names, int[] jumps) {
        int count = numbers.length;
        int pathCount = parents.length;
        Arrays.fill(parents, -2);
        int[] waiting = new int[DEEPEST * 2];
        int waitingCount = 0;
        int parent = -1;
        int depth = 0;
        int visited = 0;
        int i = 0;
        while (count > 0) {
            if (i >= count || ++visited > count) {
                throw at.problem("the coded paths lead nowhere");
            }
            int number = numbers[i];
            if (number < 0 || number >= pathCount || parents[number] != -2) {
                throw at.problem("path " + number + " is not one of " + pathCount + ", or is coded twice");
            }
            int name = names[i];
            parents[number] = parent;
            properties[number] = name < 0;
            elements[number] = Math.abs(name);
            if (parent >= 0 && (elements[number] < 0 || elements[number] >= tokens.length)) {
                throw at.problem("a path's element is not a token");
            }
            int jump = jumps[i];
            boolean child = jump > 0 || jump == -1;
            boolean sibling = jump >= 0;
            if (child) {
                if (++depth > DEEPEST) {
                    throw at.problem("paths are nested more than " + DEEPEST + " deep");
                }
                // Also where there is no sibling: so that the depth is told when the children are through.
                waiting[waitingCount++] = sibling ? i + jump : -1;
                waiting[waitingCount++] = parent;
                parent = number;
                i++;
            } else if (sibling) {
                i++;
            } else {
                int next = -1;
                while (waitingCount > 0 && next < 0) {
                    parent = waiting[--waitingCount];
                    next = waiting[--waitingCount];
                    depth--;
                }
                if (next < 0) {
                    return;
                }
                i = next;
            }
        }
    }

    int pathCount() {
        return parents.length;
    }

    /** The number of the path above; -1 for the root, -2 for a number that no path has. */
    int parent(int path) {
        return parents[path];
    }

    /** The last element: a name, or a variant in braces. */
    String element(int path) {
        return tokens[elements[path]];
    }

    boolean isProperty(int path) {
        return properties[path];
    }

    /** The path of that number; those that no path has stand for an empty one. */
    @Nullable
    SdfPath path(int number) {
        if (number < 0 || number >= parents.length) {
            throw in.problem("there is no path " + Integer.toUnsignedString(number));
        }
        if (parents[number] == -2) {
            return null;
        }
        SdfPath known = paths[number];
        if (known == null) {
            String text = parents[number] == -1 ? "/" : text(number).toString();
            if (!SdfPath.isWellFormed(text)) {
                throw problem("\"" + text + "\" is no prim or property path");
            }
            known = SdfPath.of(text);
            paths[number] = known;
        }
        return known;
    }

    private StringBuilder text(int number) {
        if (parents[number] == -1) {
            return new StringBuilder();
        }
        StringBuilder text = text(parents[number]);
        String element = element(number);
        if (properties[number]) {
            return text.append('.').append(element);
        }
        boolean joined = element.startsWith("{")
                || element.startsWith("[")
                || element.startsWith(".")
                || !text.isEmpty() && text.charAt(text.length() - 1) == '}';
        return joined ? text.append(element) : text.append('/').append(element);
    }

    String token(int number) {
        if (number < 0 || number >= tokens.length) {
            throw in.problem("there is no token " + Integer.toUnsignedString(number));
        }
        return tokens[number];
    }

    String string(int number) {
        if (number < 0 || number >= strings.length) {
            throw in.problem("there is no string " + Integer.toUnsignedString(number));
        }
        return token(strings[number]);
    }

    /** The fields of a set, by name, in order. */
    Map<String, ValueRep> fields(int set) {
        Map<String, ValueRep> fields = new LinkedHashMap<>();
        for (int i = set; ; i++) {
            if (i < 0 || i >= fieldSets.length) {
                throw in.problem("a set of fields does not end");
            }
            int field = fieldSets[i];
            if (field == -1) {
                return fields;
            }
            if (field < 0 || field >= fieldNames.length) {
                throw in.problem("there is no field " + Integer.toUnsignedString(field));
            }
            fields.put(token(fieldNames[field]), new ValueRep(fieldValues[field]));
        }
    }

    UsdException problem(String message) {
        return in.problem(message);
    }
}
