package pantry.exchange.worker;

import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import pantry.base.Names;

/** What a file has of joints and motions that Assimp passes over in its format, so that it can be told. */
final class UnreadMotion {
    /** Of IQM: a mark of 16 bytes, then whole numbers; the places of two of them, from memory and tried on a file. */
    private static final int IQM_HEADER = 16 + 27 * 4;

    private static final int IQM_JOINTS = 16 + 13 * 4;
    private static final int IQM_MOTIONS = 16 + 17 * 4;

    /** OpenGEX, 2.0: structures by their names. */
    private static final Pattern OGEX_JOINTS = Pattern.compile("^\\s*BoneNode\\b");

    private static final Pattern OGEX_MOTIONS = Pattern.compile("^\\s*Animation\\b");

    /** More of either is no count but damage. */
    private static final int MOST = 1_000_000;

    private UnreadMotion() {}

    /** For a person; empty where there is none, or all of it is read. */
    static Optional<String> told(Path file) throws IOException {
        return switch (Names.ending(file.getFileName().toString())) {
            case "iqm" -> iqm(file);
            case "ogex" -> ogex(file);
            default -> Optional.empty();
        };
    }

    private static Optional<String> iqm(Path file) throws IOException {
        try (InputStream in = Files.newInputStream(file)) {
            byte[] header = in.readNBytes(IQM_HEADER);
            if (header.length < IQM_HEADER) {
                return Optional.empty();
            }
            ByteBuffer numbers = ByteBuffer.wrap(header).order(ByteOrder.LITTLE_ENDIAN);
            return told("IQM", numbers.getInt(IQM_JOINTS), numbers.getInt(IQM_MOTIONS));
        }
    }

    private static Optional<String> ogex(Path file) throws IOException {
        try (Stream<String> lines = Files.lines(file, StandardCharsets.ISO_8859_1)) {
            List<Long> counts = lines.collect(Collectors.teeing(
                    Collectors.filtering(line -> OGEX_JOINTS.matcher(line).find(), Collectors.counting()),
                    Collectors.filtering(line -> OGEX_MOTIONS.matcher(line).find(), Collectors.counting()),
                    List::of));
            return told("OGEX", counts.getFirst(), counts.getLast());
        }
    }

    private static Optional<String> told(String format, long joints, long motions) {
        List<String> what = new ArrayList<>();
        if (joints > 0 && joints < MOST) {
            what.add(Names.counted((int) joints, "joint"));
        }
        if (motions > 0 && motions < MOST) {
            what.add(Names.counted((int) motions, "motion"));
        }
        return what.isEmpty()
                ? Optional.empty()
                : Optional.of(String.join(" and ", what) + ", which are not read from " + format);
    }
}
