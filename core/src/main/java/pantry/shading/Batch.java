package pantry.shading;

import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Places of a surface that a network is evaluated for together, such as a row of an image; one thread's at a time. */
final class Batch {
    final int count;

    /** Texture coordinates of each place. */
    final float[] u;

    final float[] v;

    /** What fields came to here, by their numbers; not valid where it was computed for other places. */
    private final List<@Nullable Result> results = new ArrayList<>();

    private int places;

    private static final class Result {
        final float[] values;
        int places = -1;

        Result(int size) {
            values = new float[size];
        }
    }

    Batch(int count) {
        this.count = count;
        this.u = new float[count];
        this.v = new float[count];
    }

    /** The middles of the pixels of a row of a square image that shows coordinates from 0 to 1; the first row is the top. */
    void row(int y) {
        places++;
        for (int x = 0; x < count; x++) {
            u[x] = (x + 0.5f) / count;
            v[x] = 1 - (y + 0.5f) / count;
        }
    }

    /** A single place. */
    static Batch at(float u, float v) {
        Batch one = new Batch(1);
        one.u[0] = u;
        one.v[0] = v;
        return one;
    }

    /** What a field comes to at these places: for each component, as many numbers as there are places. */
    float[] of(Field field) {
        while (results.size() <= field.number()) {
            results.add(null);
        }
        Result result = results.get(field.number());
        if (result == null) {
            result = new Result(count * field.width());
            results.set(field.number(), result);
        }
        if (result.places != places && !(field.isSteady() && result.places >= 0)) {
            field.fill(this, result.values);
            result.places = places;
        }
        return result.values;
    }
}
