package pantry.render;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.IntConsumer;
import org.jspecify.annotations.Nullable;
import pantry.base.math.Matrix4;

/**
 * The objects of a scene by their numbers, with their paths and where they stand. Those below a path have numbers in a
 * row, since trees are walked from the top down; where the rows are is found once, when it is first asked for.
 */
final class Owners {
    private final List<String> paths;
    private final Matrix4[] places;
    private final Rows rows;

    /** Shared by all that have the same paths. */
    private static final class Rows {
        private @Nullable Map<String, int[]> byPath;

        /** First and last number by path. */
        synchronized Map<String, int[]> of(List<String> paths) {
            Map<String, int[]> known = byPath;
            if (known == null) {
                known = new HashMap<>(2 * paths.size());
                for (int i = 0; i < paths.size(); i++) {
                    for (String at = paths.get(i); !at.isEmpty(); at = above(at)) {
                        int[] row = known.get(at);
                        if (row == null) {
                            known.put(at, new int[] {i, i});
                        } else {
                            row[1] = i;
                        }
                    }
                }
                byPath = known;
            }
            return known;
        }
    }

    Owners(List<String> paths, Matrix4[] places) {
        this(paths, places, new Rows());
    }

    private Owners(List<String> paths, Matrix4[] places, Rows rows) {
        this.paths = paths;
        this.places = places;
        this.rows = rows;
    }

    private static String above(String path) {
        return path.substring(0, Math.max(0, path.lastIndexOf('/')));
    }

    int size() {
        return paths.size();
    }

    String path(int number) {
        return paths.get(number);
    }

    Matrix4 place(int number) {
        return places[number];
    }

    /** With one more at the end, where the others' space begins. */
    Owners and(String path) {
        List<String> more = new ArrayList<>(paths);
        more.add(path);
        Matrix4[] all = Arrays.copyOf(places, places.length + 1);
        all[places.length] = Matrix4.IDENTITY;
        return new Owners(more, all);
    }

    /** The same, to be given other places. */
    Owners copy() {
        return new Owners(paths, places.clone(), rows);
    }

    void setPlace(int number, Matrix4 place) {
        places[number] = place;
    }

    Optional<Integer> number(String path) {
        int[] row = rows.of(paths).get(path);
        return row != null && paths.get(row[0]).equals(path) ? Optional.of(row[0]) : Optional.empty();
    }

    /** Tells the numbers of an object and of those below it. */
    void below(String path, IntConsumer found) {
        int[] row = rows.of(paths).get(path);
        if (row == null) {
            return;
        }
        for (int i = row[0]; i <= row[1]; i++) {
            String at = paths.get(i);
            // Paths that came up twice, in different places of the tree, may have others between them.
            if (at.startsWith(path) && (at.length() == path.length() || at.charAt(path.length()) == '/')) {
                found.accept(i);
            }
        }
    }
}
