package pantry.shading;

import java.util.Arrays;

/**
 * How far it is to the nearest of points of which each cell of a grid has one (S. Worley, A cellular texture basis function,
 * SIGGRAPH 1996). Where a cell's point lies is told by the hashes of {@link LatticeNoise}; which of them, as in MaterialX's own
 * implementation, from memory.
 */
final class CellDistances {
    private static final float FAR = 1e6f;

    private final int dimensions;
    private final boolean solid;
    private final float[] distances;
    private final float[] nearest = new float[3];

    /**
     * @param wide how many of the nearest points are asked for, 1 to 3
     * @param solid whether another number for each point is wanted, rather than how far it is
     */
    CellDistances(int dimensions, int wide, boolean solid) {
        this.dimensions = dimensions;
        this.solid = solid;
        this.distances = new float[wide];
    }

    /**
     * What is wanted at a place; valid until the next one.
     *
     * @param at as many coordinates as there are dimensions
     * @param jitter how far points may lie off the middles of their cells: 0 not at all, 1 anywhere in them
     */
    float[] at(float[] at, float jitter) {
        Arrays.fill(distances, FAR);
        int x = (int) Math.floor(at[0]);
        int y = (int) Math.floor(at[1]);
        int z = dimensions == 3 ? (int) Math.floor(at[2]) : 0;
        int layers = dimensions == 3 ? 1 : 0;
        for (int i = -1; i <= 1; i++) {
            for (int j = -1; j <= 1; j++) {
                for (int k = -layers; k <= layers; k++) {
                    cell(at, jitter, x + i, y + j, z + k);
                }
            }
        }
        for (int i = 0; i < distances.length; i++) {
            distances[i] = solid ? number(i) : (float) Math.sqrt(distances[i]);
        }
        return distances;
    }

    private void cell(float[] at, float jitter, int x, int y, int z) {
        float px = x + placed(hash(x, y, z, 0), jitter);
        float py = y + placed(hash(x, y, z, 1), jitter);
        float pz = dimensions == 3 ? z + placed(hash(x, y, z, 2), jitter) : 0;
        float dx = px - at[0];
        float dy = py - at[1];
        float dz = dimensions == 3 ? pz - at[2] : 0;
        float square = dx * dx + dy * dy + dz * dz;
        if (square < distances[0]) {
            nearest[0] = px;
            nearest[1] = py;
            nearest[2] = pz;
        }
        for (int i = 0; i < distances.length; i++) {
            if (square < distances[i]) {
                System.arraycopy(distances, i, distances, i + 1, distances.length - i - 1);
                distances[i] = square;
                break;
            }
        }
    }

    /** The numbers of the cell in which the nearest point lies. */
    private float number(int component) {
        int x = (int) Math.floor(nearest[0]);
        int y = (int) Math.floor(nearest[1]);
        if (distances.length == 1) {
            return dimensions == 3
                    ? LatticeNoise.cell(nearest[0], nearest[1], nearest[2])
                    : LatticeNoise.cell(nearest[0], nearest[1]);
        }
        return LatticeNoise.unit(hash(x, y, (int) Math.floor(nearest[2]), component));
    }

    private int hash(int x, int y, int z, int component) {
        return dimensions == 3 ? LatticeNoise.hash(x, y, z, component) : LatticeNoise.hash(x, y, component);
    }

    private static float placed(int hash, float jitter) {
        return (LatticeNoise.unit(hash) - 0.5f) * jitter + 0.5f;
    }
}
