package pantry.usd.file;

import java.io.IOException;
import java.lang.foreign.Arena;
import java.lang.foreign.MemorySegment;
import java.lang.foreign.ValueLayout;
import java.nio.channels.FileChannel;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.zip.ZipEntry;
import org.apache.commons.compress.archivers.zip.ZipArchiveEntry;
import org.apache.commons.compress.archivers.zip.ZipFile;
import pantry.base.IoProblems;
import pantry.base.Names;
import pantry.usd.AssetLocation;
import pantry.usd.Layer;
import pantry.usd.UsdException;
import pantry.usd.binary.UsdcReader;
import pantry.usd.text.UsdaReader;

/**
 * A package ({@code .usdz}): a zip archive of layers and what they need, nothing of it packed, so that all of it can be
 * read where it stands.
 *
 * <p>Source: the usdz file format specification (OpenUSD); from memory. Entries that are packed, encrypted, overlap or
 * have names that lead out of the package are refused; entries off the 64-byte marks are read all the same.
 */
public final class UsdPackage {
    private static final int MOST_ENTRIES = 100_000;
    private static final Set<String> LAYERS = Set.of("usda", "usdc", "usd");

    private final Path file;
    private final Map<String, MemorySegment> entries;

    private UsdPackage(Path file, Map<String, MemorySegment> entries) {
        this.file = file;
        this.entries = Collections.unmodifiableMap(entries);
    }

    /**
     * Opens a package; its file is mapped into memory.
     *
     * @throws UsdException where it cannot be read or is refused
     */
    public static UsdPackage open(Path file) {
        try (FileChannel channel = FileChannel.open(file, StandardOpenOption.READ);
                ZipFile zip = ZipFile.builder().setSeekableByteChannel(channel).get()) {
            MemorySegment mapped = channel.map(FileChannel.MapMode.READ_ONLY, 0, channel.size(), Arena.ofAuto());
            Map<String, MemorySegment> entries = new LinkedHashMap<>();
            long total = 0;
            for (ZipArchiveEntry entry : Collections.list(zip.getEntriesInPhysicalOrder())) {
                if (entry.isDirectory()) {
                    continue;
                }
                check(file, entry);
                total += entry.getSize();
                long at = entry.getDataOffset();
                if (entry.getSize() < 0 || at < 0 || at > mapped.byteSize() - entry.getSize()) {
                    throw refused(file, entry, "leads out of the file");
                }
                if (total > mapped.byteSize()) {
                    throw refused(file, entry, "overlaps another");
                }
                if (entries.put(entry.getName(), mapped.asSlice(at, entry.getSize())) != null) {
                    throw refused(file, entry, "is there twice");
                }
                if (entries.size() > MOST_ENTRIES) {
                    throw new UsdException(file, "has more than " + MOST_ENTRIES + " entries", null);
                }
            }
            return new UsdPackage(file, entries);
        } catch (IOException | IllegalArgumentException e) {
            throw new UsdException(
                    file,
                    "cannot be read as a package: "
                            + (e instanceof IOException io ? IoProblems.describe(io) : e.getMessage()),
                    e);
        }
    }

    private static void check(Path file, ZipArchiveEntry entry) {
        if (entry.getGeneralPurposeBit().usesEncryption()) {
            throw refused(file, entry, "is encrypted");
        }
        if (entry.getMethod() != ZipEntry.STORED || entry.getCompressedSize() != entry.getSize()) {
            throw refused(file, entry, "is packed, which the format does not allow");
        }
        String name = entry.getName();
        boolean leadsOut = name.startsWith("/")
                || name.contains("\\")
                || name.contains(":")
                || List.of(name.split("/", -1)).stream()
                        .anyMatch(part -> part.isEmpty() || part.equals("..") || part.equals("."));
        if (leadsOut) {
            throw refused(file, entry, "has a name that leads out of the package");
        }
    }

    private static UsdException refused(Path file, ZipArchiveEntry entry, String why) {
        return new UsdException(file.toString(), "entry " + entry.getName(), why, null);
    }

    /** The entries' names, as they stand in the file. */
    public Set<String> names() {
        return entries.keySet();
    }

    /**
     * The entry that the package stands for: its first, which must be a layer.
     *
     * @throws UsdException where it is not
     */
    public String firstLayer() {
        return entries.keySet().stream()
                .findFirst()
                .filter(UsdPackage::isLayer)
                .orElseThrow(() -> new UsdException(file, "does not begin with a layer, as a package has to", null));
    }

    private static boolean isLayer(String name) {
        return LAYERS.contains(Names.ending(name));
    }

    /**
     * A layer of the package.
     *
     * @throws UsdException where it is not there or cannot be read
     */
    public Layer layer(String name) {
        if (Names.ending(name).equals("usdz")) {
            throw new UsdException(file.toString(), "entry " + name, "packages within packages are not read", null);
        }
        AssetLocation location = new AssetLocation(file, name);
        MemorySegment segment = entry(name);
        boolean binary = segment.byteSize() >= 8 && segment.get(ValueLayout.JAVA_BYTE, 0) == 'P';
        return binary
                ? UsdcReader.read(segment, location)
                : UsdaReader.read(segment.toArray(ValueLayout.JAVA_BYTE), location);
    }

    /**
     * The bytes of an entry, in the mapped file.
     *
     * @throws UsdException where it is not there
     */
    public MemorySegment entry(String name) {
        MemorySegment segment = entries.get(name);
        if (segment == null) {
            throw new UsdException(
                    file.toString(),
                    "entry " + name,
                    "is not in the package",
                    new NoSuchFileException(file + "[" + name + "]"));
        }
        return segment;
    }
}
