package pantry.usd.file;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.function.UnaryOperator;
import pantry.base.IoProblems;
import pantry.base.Names;
import pantry.usd.AssetLocation;
import pantry.usd.AssetPaths;
import pantry.usd.Layer;
import pantry.usd.Layers;
import pantry.usd.UsdException;
import pantry.usd.binary.UsdcReader;
import pantry.usd.binary.UsdcWriter;
import pantry.usd.text.UsdaReader;
import pantry.usd.text.UsdaWriter;

/** Reads layers by what is in a file, and writes them by the ending of its name. */
public final class LayerFiles {
    private static final String BINARY = "PXR-USDC";
    private static final String PACKAGE = "PK\u0003\u0004";

    private LayerFiles() {}

    /** The endings of layer files. */
    public static final List<String> ENDINGS = List.of("usda", "usdc", "usd", "usdz");

    /** Whether a file is, by its ending, a layer. */
    public static boolean isLayer(String file) {
        return ENDINGS.contains(Names.ending(file));
    }

    /**
     * Reads a layer of any format; of a package, its first.
     *
     * @throws UsdException where there is none or it cannot be read
     */
    public static Layer read(AssetLocation location) {
        if (location.isPackaged()) {
            return UsdPackage.open(location.file()).layer(location.inside());
        }
        return read(location.file());
    }

    /** As {@link #read(AssetLocation)}. */
    public static Layer read(Path file) {
        String start = start(file);
        if (start.equals(BINARY)) {
            return UsdcReader.read(file);
        }
        if (start.startsWith(PACKAGE)) {
            UsdPackage opened = UsdPackage.open(file);
            return opened.layer(opened.firstLayer());
        }
        return UsdaReader.read(file);
    }

    private static String start(Path file) {
        try (InputStream in = Files.newInputStream(file)) {
            return new String(in.readNBytes(BINARY.length()), StandardCharsets.ISO_8859_1);
        } catch (IOException e) {
            throw new UsdException(file, "cannot be read: " + IoProblems.describe(e), e);
        }
    }

    /**
     * Writes a layer as its file's name says: {@code .usdc} and {@code .usd} binary, {@code .usda} as text,
     * {@code .usdz} as a package with all that it names. The file is the old one or the new one at every moment.
     *
     * @throws UsdException where it cannot be written, or the ending is another
     */
    public static void write(Layer layer, Path file) {
        write(layer, LayerFiles::read, file);
    }

    /**
     * As above; what a package takes along comes from some layers, as far as their gate admits it.
     *
     * @throws UsdException where the file's ending is not of a layer, or it cannot be written
     */
    public static void write(Layer layer, Layers layers, Path file) {
        switch (Names.ending(file.getFileName().toString())) {
            case "usda" -> UsdaWriter.write(layer, file);
            case "usdc", "usd" -> UsdcWriter.write(layer, file);
            case "usdz" -> UsdPackager.write(layer, layers, file);
            default -> throw new UsdException(file, "layers are written as .usda, .usdc, .usd or .usdz", null);
        }
    }

    /**
     * Writes a layer in another format or folder. What it names by asset paths is named from there; it is not composed.
     *
     * @throws UsdException where it cannot be read or written
     */
    public static void convert(Path source, Layers layers, Path target) {
        Layer layer = layers.open(AssetLocation.of(source));
        Path folder = target.toAbsolutePath().normalize().getParent();
        UnaryOperator<String> fromTarget = asset ->
                AssetPaths.relative(folder == null ? Path.of("") : folder, AssetPaths.PLAIN.resolve(layer, asset));
        write(LayerAssets.renamed(layer, AssetLocation.of(target), fromTarget), layers, target);
    }
}
