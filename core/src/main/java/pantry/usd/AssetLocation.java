package pantry.usd;

import java.nio.file.Path;

/**
 * Where an asset is: a file, or an entry of a package. Written as the standard writes paths into packages: {@code
 * station.usdz[textures/snow.png]}.
 *
 * @param file absolute and normalized
 * @param inside the entry within the package, with forward slashes; empty for the file itself
 */
public record AssetLocation(Path file, String inside) {
    public AssetLocation {
        file = file.toAbsolutePath().normalize();
    }

    public static AssetLocation of(Path file) {
        return new AssetLocation(file, "");
    }

    /** A location as {@link #toString} writes it. */
    public static AssetLocation parse(String text) {
        int bracket = text.endsWith("]") ? text.indexOf('[') : -1;
        return bracket < 0
                ? of(Path.of(text))
                : new AssetLocation(
                        Path.of(text.substring(0, bracket)), text.substring(bracket + 1, text.length() - 1));
    }

    /** Whether this is an entry of a package. */
    public boolean isPackaged() {
        return !inside.isEmpty();
    }

    @Override
    public String toString() {
        return isPackaged() ? file + "[" + inside + "]" : file.toString();
    }
}
