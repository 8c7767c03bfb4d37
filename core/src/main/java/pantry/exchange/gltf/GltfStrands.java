package pantry.exchange.gltf;

import java.util.Arrays;
import java.util.Optional;
import pantry.mesh.Channel;
import pantry.mesh.Mesh;
import pantry.mesh.Strands;

/** Points and lines of primitives, as glTF 2.0, section 3.7.2.1, joins their indices. */
final class GltfStrands {
    private static final int POINTS = 0;
    private static final int PAIRS = 1;
    private static final int LOOP = 2;

    private GltfStrands() {}

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
        int[] line =
                switch (mode) {
                    case PAIRS -> Arrays.copyOf(numbers, numbers.length / 2 * 2);
                    case LOOP -> {
                        int[] closed = Arrays.copyOf(numbers, numbers.length + 1);
                        closed[numbers.length] = numbers[0];
                        yield closed;
                    }
                    default -> numbers;
                };
        int[] counts = new int[mode == PAIRS ? line.length / 2 : 1];
        Arrays.fill(counts, mode == PAIRS ? 2 : line.length);
        return Optional.of(Strands.lines(points.points(), colours, line, counts));
    }
}
