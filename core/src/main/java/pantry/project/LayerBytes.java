package pantry.project;

import java.io.IOException;
import java.lang.foreign.MemorySegment;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import pantry.base.IoProblems;
import pantry.base.PantryException;
import pantry.usd.AssetLocation;
import pantry.usd.Layer;
import pantry.usd.binary.UsdcReader;
import pantry.usd.file.LayerFiles;
import pantry.usd.text.UsdaReader;

/** The contents of layers' files. */
final class LayerBytes {
    private static final byte[] TEXT = "#usda".getBytes(StandardCharsets.US_ASCII);

    private LayerBytes() {}

    /** Whether a file's contents are a layer's text. */
    static boolean isText(byte[] contents) {
        return contents.length >= TEXT.length && Arrays.equals(contents, 0, TEXT.length, TEXT, 0, TEXT.length);
    }

    /**
     * The layer that contents are.
     *
     * @param file that they are of
     */
    static Layer read(byte[] contents, Path file) {
        AssetLocation location = AssetLocation.of(file);
        return isText(contents)
                ? UsdaReader.read(contents, location)
                : UsdcReader.read(MemorySegment.ofArray(contents), location);
    }

    /**
     * A layer as a file has it.
     *
     * @param file that it is for, for errors
     * @param ending of the format: usda or usdc
     */
    static byte[] of(Layer layer, Path file, String ending) {
        try {
            Path written = Files.createTempFile("pantry-", "." + ending);
            try {
                LayerFiles.write(layer, written);
                return Files.readAllBytes(written);
            } finally {
                Files.deleteIfExists(written);
            }
        } catch (IOException e) {
            throw new PantryException(file, "cannot be written anew: " + IoProblems.describe(e), e);
        }
    }
}
