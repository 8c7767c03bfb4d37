package pantry.usd.file;

import java.io.IOException;
import java.lang.foreign.Arena;
import java.lang.foreign.MemorySegment;
import java.lang.foreign.ValueLayout;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import pantry.base.AtomicFiles;
import pantry.base.FileGate;
import pantry.base.ImageSignature;
import pantry.base.IoProblems;
import pantry.base.Scratch;
import pantry.base.Sha256;
import pantry.usd.AssetLocation;
import pantry.usd.Layer;
import pantry.usd.UsdException;

/** What asset paths lead to, whether it stands in a file of its own or in a package. */
public final class Assets {
    private static @Nullable Path unpacked;

    private Assets() {}

    /**
     * The bytes of an asset, mapped into memory.
     *
     * @throws UsdException where there is none, it cannot be read, or the gate refuses it
     */
    public static MemorySegment bytes(AssetLocation location, FileGate gate) {
        require(location, gate);
        if (location.isPackaged()) {
            return UsdPackage.open(location.file()).entry(location.inside());
        }
        try (FileChannel channel = FileChannel.open(location.file(), StandardOpenOption.READ)) {
            return channel.map(FileChannel.MapMode.READ_ONLY, 0, channel.size(), Arena.ofAuto());
        } catch (IOException e) {
            throw new UsdException(location.file(), "cannot be read: " + IoProblems.describe(e), e);
        }
    }

    /**
     * Makes sure that an asset may be read.
     *
     * @throws UsdException where the gate refuses it
     */
    public static void require(AssetLocation location, FileGate gate) {
        Path file = location.file();
        if (gate.admit(file, file.toString(), file).isEmpty()) {
            gate.refusals().stream()
                    .filter(refusal -> refusal.written().equals(file.toString()))
                    .findFirst()
                    .ifPresent(refusal -> {
                        throw new UsdException(file, refusal.reason().words() + "; it was not opened", null);
                    });
        }
    }

    /** As {@link #onDisk}, of what must be an image by its first bytes. */
    public static Optional<Path> image(AssetLocation location, String written, Layer by, FileGate gate) {
        return onDisk(location, written, by, gate)
                .filter(file -> ImageSignature.isImage(file)
                        || gate.refuse(written, by.file().orElse(file), file, FileGate.Reason.NOT_IMAGE)
                                .isPresent());
    }

    /**
     * A file with the asset in it: its own, or for an entry of a package a copy in a folder of this process, which the
     * same bytes share.
     *
     * @param written the asset path that led there
     * @param by the layer that holds it
     * @return empty where there is no such asset, and where the gate refuses it
     * @throws UsdException where the package cannot be read or the copy not be written
     */
    public static Optional<Path> onDisk(AssetLocation location, String written, Layer by, FileGate gate) {
        Optional<Path> file = gate.admit(location.file(), written, by.file().orElse(location.file()));
        if (!location.isPackaged() || file.isEmpty()) {
            return file;
        }
        UsdPackage opened = UsdPackage.open(location.file());
        if (!opened.names().contains(location.inside())) {
            return Optional.empty();
        }
        byte[] bytes = opened.entry(location.inside()).toArray(ValueLayout.JAVA_BYTE);
        Path name = Path.of(location.inside()).getFileName();
        String sum = Sha256.of(bytes);
        try {
            Path copy = unpacked().resolve(sum).resolve(name.toString());
            if (!Files.exists(copy) || !Sha256.of(copy).equals(sum)) {
                Files.createDirectories(copy.getParent());
                AtomicFiles.write(copy, bytes);
            }
            return Optional.of(copy);
        } catch (IOException e) {
            throw new UsdException(location.file(), "an image in it cannot be unpacked: " + IoProblems.describe(e), e);
        }
    }

    private static synchronized Path unpacked() throws IOException {
        Path folder = unpacked;
        if (folder == null) {
            folder = Scratch.folder("unpacked");
            unpacked = folder;
        }
        return folder;
    }
}
