package pantry.usd.file;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.lang.foreign.MemorySegment;
import java.lang.foreign.ValueLayout;
import java.nio.channels.Channels;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Consumer;
import java.util.zip.ZipEntry;
import javax.imageio.ImageIO;
import org.apache.commons.compress.archivers.zip.Zip64Mode;
import org.apache.commons.compress.archivers.zip.ZipArchiveEntry;
import org.apache.commons.compress.archivers.zip.ZipArchiveOutputStream;
import pantry.base.AtomicFiles;
import pantry.base.ImageDecoder;
import pantry.base.ImageTiles;
import pantry.base.IoProblems;
import pantry.base.Names;
import pantry.base.Scratch;
import pantry.usd.AssetLocation;
import pantry.usd.Layer;
import pantry.usd.Layers;
import pantry.usd.UsdException;
import pantry.usd.binary.UsdcWriter;

/**
 * Writes a layer with all that it names as a folder or a package: the layer first, in the binary format, every entry unpacked and
 * at a multiple of 64 bytes. The same content makes the same bytes.
 */
public final class UsdPackager {
    private static final int ALIGNMENT = 64;

    /** What packages hold besides layers. */
    private static final Set<String> HELD = Set.of("png", "jpg", "jpeg", "exr", "avif", "m4a", "mp3", "wav");

    /** Zip cannot tell times before this one; every entry has it. */
    private static final long ALWAYS = 315_532_800_000L;

    private final Layers layers;
    private final Optional<Consumer<String>> missing;
    private final Map<AssetLocation, String> names = new LinkedHashMap<>();
    private final Set<String> taken = new HashSet<>();
    private final Map<AssetLocation, Layer> packed = new LinkedHashMap<>();

    /** Images of kinds that packages do not hold, as PNG. */
    private final Map<AssetLocation, byte[]> converted = new HashMap<>();

    /** What images in tiles are called, by where their first tile would lie. */
    private final Map<AssetLocation, String> tiled = new HashMap<>();

    private final boolean asPackage;
    private final Deque<AssetLocation> waiting = new ArrayDeque<>();

    private UsdPackager(Layers layers, boolean asPackage, Optional<Consumer<String>> missing) {
        this.layers = layers;
        this.asPackage = asPackage;
        this.missing = missing;
    }

    /**
     * Writes a package.
     *
     * @param layer the one that the package stands for
     * @param layers where the layers that it names come from
     * @return how many files there are in it
     * @throws UsdException where something that is named is missing, or the file cannot be written; the old one is then
     *     untouched
     */
    public static int write(Layer layer, Layers layers, Path file) {
        return write(layer, layers, file, Optional.empty());
    }

    /**
     * As above.
     *
     * @param missing takes what is named and not there, or may not be read, as it is written, which is an error where
     *     there is nobody to take it; and what is converted, since packages hold few kinds of files
     * @throws UsdException where the package cannot be written
     */
    public static int write(Layer layer, Layers layers, Path file, Optional<Consumer<String>> missing) {
        UsdPackager packager = new UsdPackager(layers, true, missing);
        packager.gather(layer, file);
        try {
            AtomicFiles.write(file, packager::entries);
        } catch (IOException e) {
            throw new UsdException(file, "cannot be written: " + IoProblems.describe(e), e);
        }
        return packager.names.size();
    }

    /**
     * Writes the same as a folder: files side by side that name nothing outside of it.
     *
     * @param folder must not be there yet
     * @return how many files there are
     * @throws UsdException where something that is named is missing, or the folder is there or cannot be written; nothing
     *     is then left of it
     */
    public static int writeFolder(Layer layer, Layers layers, Path folder) {
        return writeFolder(layer, layers, folder, Optional.empty());
    }

    /**
     * As above; for {@code missing} see {@link #write(Layer, Layers, Path, Optional)}.
     *
     * @throws UsdException where the folder is there already or cannot be written
     */
    public static int writeFolder(Layer layer, Layers layers, Path folder, Optional<Consumer<String>> missing) {
        UsdPackager packager = new UsdPackager(layers, false, missing);
        if (Files.exists(folder)) {
            throw new UsdException(folder, "is already there", null);
        }
        packager.gather(layer, folder);
        try {
            AtomicFiles.createFolder(folder, packager::files);
        } catch (IOException e) {
            throw new UsdException(folder, "cannot be written: " + IoProblems.describe(e), e);
        }
        return packager.names.size();
    }

    private void files(Path folder) throws IOException {
        for (Map.Entry<AssetLocation, String> entry : names.entrySet()) {
            Path file = folder.resolve(entry.getValue());
            Layer layer = packed.get(entry.getKey());
            if (layer != null) {
                UsdcWriter.write(layer, file);
            } else {
                Files.write(file, Assets.bytes(entry.getKey(), layers.gate()).toArray(ValueLayout.JAVA_BYTE));
            }
        }
    }

    private void gather(Layer layer, Path file) {
        AssetLocation root = layer.location().orElseGet(() -> AssetLocation.of(file.resolveSibling("layer.usda")));
        name(root, true);
        packed.put(root, renamed(layer));
        while (!waiting.isEmpty()) {
            AssetLocation next = waiting.removeFirst();
            packed.put(next, renamed(layers.open(next)));
        }
    }

    private Layer renamed(Layer layer) {
        return LayerAssets.renamed(layer, layer.location().orElseGet(() -> AssetLocation.parse("layer")), asset -> {
            Optional<String> tiles = tiles(layer, asset);
            if (tiles.isPresent()) {
                return "./" + tiles.get();
            }
            AssetLocation place = layers.resolve(layer, asset);
            String known = names.get(place);
            if (known == null) {
                boolean isLayer = isLayer(place);
                Optional<String> lacking = lacking(layer, asset, place, isLayer).or(() -> unfit(place, asset, isLayer));
                if (lacking.isPresent() && missing.isPresent()) {
                    missing.get().accept(asset + ": " + lacking.get());
                    // A package may name nothing outside of it; a folder may be given the file later.
                    return asPackage ? "" : "./" + nameOf(place);
                }
                lacking.ifPresent(why -> {
                    throw new UsdException(layer.name(), null, "names " + asset + ", which " + why, null);
                });
                known = name(place, isLayer);
                if (isLayer) {
                    waiting.add(place);
                }
            }
            return "./" + known;
        });
    }

    /** Takes along those tiles of an image that are there, under one name; empty where there are none. */
    private Optional<String> tiles(Layer layer, String asset) {
        if (!ImageTiles.isTiled(asset)) {
            return Optional.empty();
        }
        AssetLocation first = layers.resolve(layer, ImageTiles.of(asset, ImageTiles.FIRST));
        String known = tiled.get(first);
        if (known != null) {
            return Optional.of(known);
        }
        Map<Integer, AssetLocation> there = new TreeMap<>();
        ImageTiles.numbers().forEach(number -> {
            String tile = ImageTiles.of(asset, number);
            AssetLocation place = layers.resolve(layer, tile);
            if (lacking(layer, tile, place, false).isEmpty()
                    && unfit(place, tile, false).isEmpty()) {
                there.put(number, place);
            }
        });
        if (there.isEmpty()) {
            return Optional.empty();
        }
        String own = asset.substring(asset.replace('\\', '/').lastIndexOf('/') + 1);
        int dot = own.lastIndexOf('.') < 0 ? own.length() : own.lastIndexOf('.');
        String ending = there.values().stream().anyMatch(converted::containsKey) ? ".png" : own.substring(dot);
        String name = Names.free(own.substring(0, dot), candidate -> there.keySet().stream()
                        .anyMatch(number -> taken.contains(ImageTiles.of(candidate, number) + ending)))
                + ending;
        there.forEach((number, place) -> {
            String tile = ImageTiles.of(name, number);
            taken.add(tile);
            names.put(place, tile);
        });
        tiled.put(first, name);
        return Optional.of(name);
    }

    /**
     * Why a file cannot be part of a package; an image of another kind becomes a PNG.
     *
     * <p>Source: the usdz file format specification, file types; from memory.
     */
    private Optional<String> unfit(AssetLocation place, String asset, boolean isLayer) {
        String ending = Names.ending(nameOf(place)).toLowerCase(Locale.ROOT);
        if (!asPackage || isLayer || HELD.contains(ending)) {
            return Optional.empty();
        }
        try {
            Path copy = Scratch.file("convert", "." + ending);
            Files.write(copy, Assets.bytes(place, layers.gate()).toArray(ValueLayout.JAVA_BYTE));
            ByteArrayOutputStream png = new ByteArrayOutputStream();
            ImageIO.write(ImageDecoder.read(copy), "png", png);
            Files.delete(copy);
            converted.put(place, png.toByteArray());
            missing.ifPresent(told -> told.accept(asset + ": is a PNG in the package, which does not hold ." + ending));
            return Optional.empty();
        } catch (IOException e) {
            return Optional.of("is of a kind that packages do not hold");
        }
    }

    private static boolean isLayer(AssetLocation place) {
        return LayerFiles.isLayer(
                place.isPackaged() ? place.inside() : place.file().toString());
    }

    /** Why something that is named cannot be taken along. */
    private Optional<String> lacking(Layer layer, String asset, AssetLocation place, boolean isLayer) {
        if (isLayer) {
            try {
                layers.open(place);
                return Optional.empty();
            } catch (UsdException e) {
                return Optional.of("cannot be had: " + e.getMessage());
            }
        }
        Path by = layer.file().orElse(place.file());
        if (layers.gate().admit(place.file(), asset, by).isPresent()) {
            return Optional.empty();
        }
        return Optional.of(layers.gate().refusals().stream()
                .filter(refusal -> refusal.written().equals(asset))
                .map(refusal -> refusal.reason().words())
                .findFirst()
                .orElse("is not there"));
    }

    private static String nameOf(AssetLocation place) {
        return Path.of(place.isPackaged() ? place.inside() : place.file().toString())
                .getFileName()
                .toString();
    }

    /** All entries stand side by side, so that one names the other by its name alone. */
    private String name(AssetLocation place, boolean asLayer) {
        String own = nameOf(place);
        int dot = own.lastIndexOf('.');
        String stem = dot < 0 ? own : own.substring(0, dot);
        String kept = converted.containsKey(place) ? ".png" : dot < 0 ? "" : own.substring(dot);
        String ending = asLayer ? ".usdc" : kept;
        String name = Names.free(stem, candidate -> taken.contains(candidate + ending)) + ending;
        taken.add(name);
        names.put(place, name);
        return name;
    }

    private void entries(FileChannel channel) throws IOException {
        // Not closed: the channel belongs to the caller.
        ZipArchiveOutputStream zip = new ZipArchiveOutputStream(channel);
        zip.setUseZip64(Zip64Mode.Never);
        zip.setMethod(ZipEntry.STORED);
        Path temporary = Scratch.file("package", ".usdc");
        try {
            for (Map.Entry<AssetLocation, String> entry : names.entrySet()) {
                ZipArchiveEntry header = new ZipArchiveEntry(entry.getValue());
                header.setMethod(ZipEntry.STORED);
                header.setAlignment(ALIGNMENT);
                header.setTime(ALWAYS);
                Layer layer = packed.get(entry.getKey());
                if (layer != null) {
                    UsdcWriter.write(layer, temporary);
                    header.setSize(Files.size(temporary));
                    zip.putArchiveEntry(header);
                    Files.copy(temporary, zip);
                } else {
                    byte[] png = converted.get(entry.getKey());
                    MemorySegment bytes =
                            png == null ? Assets.bytes(entry.getKey(), layers.gate()) : MemorySegment.ofArray(png);
                    header.setSize(bytes.byteSize());
                    zip.putArchiveEntry(header);
                    Channels.newChannel(zip).write(bytes.asByteBuffer());
                }
                zip.closeArchiveEntry();
            }
            zip.finish();
        } finally {
            Files.deleteIfExists(temporary);
        }
    }
}
