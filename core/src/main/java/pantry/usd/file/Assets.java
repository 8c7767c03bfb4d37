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
import pantry.base.AtomicFiles;
import pantry.base.IoProblems;
import pantry.base.Sha256;
import pantry.usd.AssetLocation;
import pantry.usd.UsdException;

/** What asset paths lead to, whether it stands in a file of its own or in a package. */
public final class Assets {
    private Assets() {}

    /**
     * The bytes of an asset, mapped into memory.
     *
     * @throws UsdException where there is none or it cannot be read
     */
    public static MemorySegment bytes(AssetLocation location) {
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
     * A file with the asset in it: its own, or for an entry of a package a copy in the folder for temporary files, which
     * the same bytes share.
     *
     * @return empty where there is no such asset
     * @throws UsdException where the package cannot be read or the copy not be written
     */
    public static Optional<Path> onDisk(AssetLocation location) {
        if (!location.isPackaged()) {
            return Optional.of(location.file()).filter(Files::isRegularFile);
        }
        if (!Files.isRegularFile(location.file())) {
            return Optional.empty();
        }
        UsdPackage opened = UsdPackage.open(location.file());
        if (!opened.names().contains(location.inside())) {
            return Optional.empty();
        }
        byte[] bytes = opened.entry(location.inside()).toArray(ValueLayout.JAVA_BYTE);
        Path name = Path.of(location.inside()).getFileName();
        Path copy = Path.of(System.getProperty("java.io.tmpdir"), "pantry-unpacked", Sha256.of(bytes), name.toString());
        try {
            if (!Files.exists(copy)) {
                Files.createDirectories(copy.getParent());
                AtomicFiles.write(copy, bytes);
            }
            return Optional.of(copy);
        } catch (IOException e) {
            throw new UsdException(copy, "cannot be written: " + IoProblems.describe(e), e);
        }
    }
}
