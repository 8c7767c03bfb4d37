package pantry.exchange.worker;

import java.io.IOException;
import java.lang.foreign.Arena;
import java.lang.foreign.MemorySegment;
import java.lang.foreign.ValueLayout;
import java.nio.ByteOrder;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.HashSet;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Which properties of an FBX file people made: those that it marks by a U. Assimp hands over the others alike, of which
 * every object has a dozen.
 *
 * <p>The form of a property, in text {@code P: "name", "type", "label", "flags"} and in binary a record P of four
 * strings, is from memory.
 */
final class FbxUserProperties {
    /** What ends the mark at the start of a binary file, and where. */
    private static final byte[] BINARY = {0, 0x1A, 0};

    private static final int MARK = 20;

    private static final Pattern TEXT =
            Pattern.compile("P: *\"([^\"]{1,256})\", *\"[^\"]{0,256}\", *\"[^\"]{0,256}\", *\"([^\"]{0,16})\"");

    private static final ValueLayout.OfInt LENGTH = ValueLayout.JAVA_INT_UNALIGNED.withOrder(ByteOrder.LITTLE_ENDIAN);

    private static final int LONGEST = 256;
    private static final String MADE = "U";

    private final MemorySegment bytes;
    private long at;

    private FbxUserProperties(MemorySegment bytes) {
        this.bytes = bytes;
    }

    /** Their names; none of a file of another format. */
    static Set<String> names(Path file) throws IOException {
        if (!file.getFileName().toString().toLowerCase(java.util.Locale.ROOT).endsWith(".fbx")) {
            return Set.of();
        }
        try (Arena arena = Arena.ofConfined();
                FileChannel channel = FileChannel.open(file, StandardOpenOption.READ)) {
            MemorySegment all = channel.map(FileChannel.MapMode.READ_ONLY, 0, channel.size(), arena);
            boolean binary = all.byteSize() > MARK + BINARY.length
                    && all.asSlice(MARK, BINARY.length).mismatch(MemorySegment.ofArray(BINARY)) < 0;
            return binary ? new FbxUserProperties(all).binary() : text(all);
        }
    }

    private static Set<String> text(MemorySegment all) {
        Set<String> names = new HashSet<>();
        // Pieces overlap by more than a property is long.
        long piece = 1 << 24;
        for (long from = 0; from < all.byteSize(); from += piece) {
            byte[] some = all.asSlice(from, Math.min(piece + 2048, all.byteSize() - from))
                    .toArray(ValueLayout.JAVA_BYTE);
            Matcher property = TEXT.matcher(new String(some, StandardCharsets.UTF_8));
            while (property.find()) {
                if (property.group(2).contains(MADE)) {
                    names.add(property.group(1));
                }
            }
        }
        return names;
    }

    private Set<String> binary() {
        Set<String> names = new HashSet<>();
        for (long i = 0; i + 7 < bytes.byteSize(); i++) {
            if (bytes.get(ValueLayout.JAVA_BYTE, i) == 'P'
                    && bytes.get(ValueLayout.JAVA_BYTE, i + 1) == 'S'
                    && i > 0
                    && bytes.get(ValueLayout.JAVA_BYTE, i - 1) == 1) {
                at = i + 1;
                Optional<String> name = string();
                boolean whole = name.isPresent() && string().isPresent() && string().isPresent();
                if (whole && string().filter(flags -> flags.contains(MADE)).isPresent()) {
                    names.add(name.get());
                }
            }
        }
        return names;
    }

    /** The string that stands here; empty where there is none. */
    private Optional<String> string() {
        if (at + 5 > bytes.byteSize() || bytes.get(ValueLayout.JAVA_BYTE, at) != 'S') {
            return Optional.empty();
        }
        int length = bytes.get(LENGTH, at + 1);
        if (length < 0 || length > LONGEST || at + 5 + length > bytes.byteSize()) {
            return Optional.empty();
        }
        byte[] text = bytes.asSlice(at + 5, length).toArray(ValueLayout.JAVA_BYTE);
        at += 5L + length;
        return Optional.of(new String(text, StandardCharsets.UTF_8));
    }
}
