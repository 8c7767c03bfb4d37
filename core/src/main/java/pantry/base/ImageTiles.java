package pantry.base;

import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Names of images in tiles, one for each unit square of texture coordinates, in which {@value #NUMBER} stands for the numbers
 * of the tiles (UDIM; common practice).
 */
public final class ImageTiles {
    public static final String NUMBER = "<UDIM>";

    /** The number of the tile from 0, 0 on. */
    public static final int FIRST = 1001;

    /** As many tiles of a name are looked for. */
    public static final int MOST = 100;

    private ImageTiles() {}

    public static boolean isTiled(String written) {
        return written.contains(NUMBER);
    }

    /** The name of a tile. */
    public static String of(String written, int number) {
        return written.replace(NUMBER, String.valueOf(number));
    }

    /** The numbers that tiles can have. */
    public static IntStream numbers() {
        return IntStream.range(FIRST, FIRST + MOST);
    }

    /** The names that an asset path stands for: itself, or those that its tiles can have. */
    public static List<String> each(String written) {
        return isTiled(written)
                ? numbers().mapToObj(number -> of(written, number)).toList()
                : List.of(written);
    }

    /**
     * Where all tiles of a name lie, by where one of them does.
     *
     * @param places the new path of a tile by its name, null where there is none; its number is part of it
     */
    public static Optional<String> renamed(String written, Function<String, @Nullable String> places) {
        return isTiled(written)
                ? numbers()
                        .boxed()
                        .flatMap(number -> Stream.ofNullable(places.apply(of(written, number)))
                                .map(place -> place.replace(String.valueOf(number), NUMBER)))
                        .findFirst()
                : Optional.empty();
    }
}
