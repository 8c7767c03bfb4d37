package pantry.exchange.gltf;

import java.util.Arrays;
import java.util.Optional;
import pantry.mesh.Channel;
import pantry.mesh.Mesh;
import pantry.mesh.Strands;

/** Points and lines of primitives, as glTF 2.0, section 3.7.2.1, joins their indices. */
final class GltfStrands {
    static final int POINTS = 0;
    static final int PAIRS = 1;
    private static final int LOOP = 2;

    private GltfStrands() {}

    /** The points of each piece of lines that stand one after the other. */
    static int[] pairs(int[] counts) {
        int[] pairs = new int
                [2 * Arrays.stream(counts).map(count -> Math.max(0, count - 1)).sum()];
        int at = 0;
        int first = 0;
        for (int count : counts) {
            for (int i = 1; i < count; i++) {
                pairs[at++] = first + i - 1;
                pairs[at++] = first + i;
            }
            first += count;
        }
        return pairs;
    }

    /**
     * What a primitive shows; empty where it has no points, or too few for a line.
     *
     * @param points with their colours, where they have any
     * @param numbers of the points, each of one that is there
     * @param mode below that of triangles
     */
    static Optional<Strands> of(Mesh points, int[] numbers, int mode) {
        float[] colours = Optional.ofNullable(points.primvars().get(Mesh.COLOUR))
                .map(Channel::data)
                .orElse(new float[0]);
        if (mode == POINTS) {
            return numbers.length == 0
                    ? Optional.empty()
                    : Optional.of(Strands.loose(points.points(), colours, numbers));
        }
        if (numbers.length < 2) {
            return Optional.empty();
        }
        if (mode == PAIRS) {
            return Optional.of(joined(points.points(), colours, numbers));
        }
        int[] line =
                switch (mode) {
                    case LOOP -> {
                        int[] closed = Arrays.copyOf(numbers, numbers.length + 1);
                        closed[numbers.length] = numbers[0];
                        yield closed;
                    }
                    default -> numbers;
                };
        return Optional.of(Strands.lines(points.points(), colours, line, new int[] {line.length}));
    }

    /** Pieces that each begin where the one before ends are one line. */
    private static Strands joined(float[] points, float[] colours, int[] numbers) {
        int[] line = new int[numbers.length];
        int[] counts = new int[numbers.length / 2];
        int at = 0;
        int lines = 0;
        for (int i = 0; i + 1 < numbers.length; i += 2) {
            if (i == 0 || numbers[i] != numbers[i - 1]) {
                line[at++] = numbers[i];
                counts[lines++] = 1;
            }
            line[at++] = numbers[i + 1];
            counts[lines - 1]++;
        }
        return Strands.lines(points, colours, Arrays.copyOf(line, at), Arrays.copyOf(counts, lines));
    }
}
