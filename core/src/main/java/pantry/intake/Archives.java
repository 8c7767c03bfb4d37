package pantry.intake;

import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.Collections;
import java.util.List;
import java.util.zip.GZIPInputStream;
import org.apache.commons.compress.archivers.tar.TarArchiveEntry;
import org.apache.commons.compress.archivers.tar.TarArchiveInputStream;
import org.apache.commons.compress.archivers.zip.ZipArchiveEntry;
import org.apache.commons.compress.archivers.zip.ZipFile;
import pantry.base.AtomicFiles;
import pantry.base.IoProblems;
import pantry.base.Names;
import pantry.base.Progress;
import pantry.exchange.format.FileKind;

/**
 * Unpacks archives that files come in: zip, tar and tar.gz, told by what is in them.
 *
 * <p>An archive is unpacked whole or refused: where an entry would leave the folder, is encrypted, or unpacks to more
 * than the limits allow. Links are left out, since they may lead anywhere. Archives within archives stay packed.
 */
public final class Archives {
    /** The endings that archives usually have. */
    public static final List<String> ENDINGS = List.of("zip", "tar", "tar.gz", "tgz");

    /** Names in zip files without the mark for Unicode (APPNOTE.TXT, appendix D). */
    private static final Charset OLD_NAMES = Charset.forName("IBM437");

    private static final String GZIP = "\u001f\u008b";
    private static final int TAR_MARK = 257;
    private static final int BUFFER = 1 << 16;

    private final Limits limits;

    /**
     * What an archive may unpack to.
     *
     * @param entries files and folders
     * @param bytes of all files together
     * @param ratio of the unpacked bytes to those of the archive, above a first 64 MB
     */
    public record Limits(int entries, long bytes, int ratio) {
        public static final Limits USUAL = new Limits(200_000, 16L << 30, 200);

        private static final long FREE = 64L << 20;

        long allowed(long archiveBytes) {
            return Math.min(bytes, Math.max(FREE, archiveBytes * ratio));
        }
    }

    public Archives(Limits limits) {
        this.limits = limits;
    }

    /** Whether a file is an archive to be unpacked; packages that are files of a kind of their own are none. */
    public static boolean isArchive(Path file) {
        String ending = Names.ending(file.getFileName().toString());
        if (FileKind.of(file).hasModel()) {
            return false;
        }
        String text;
        try {
            text = start(file, TAR_MARK + 5);
        } catch (IOException e) {
            return false;
        }
        return text.startsWith("PK\u0003\u0004")
                || text.startsWith(GZIP) && (ending.equals("tgz") || ending.equals("gz"))
                || text.startsWith("ustar", TAR_MARK);
    }

    /**
     * Unpacks an archive.
     *
     * @param folder that does not exist yet; it is there whole or not at all
     * @throws IntakeException where the archive cannot be read or is refused
     */
    public void unpack(Path archive, Path folder, Progress progress) {
        boolean done = false;
        try {
            Files.createDirectories(folder);
            Target target = new Target(archive, folder, limits, progress);
            if (start(archive, 2).equals("PK")) {
                unzip(archive, target);
            } else {
                untar(archive, target);
            }
            done = true;
        } catch (IOException e) {
            throw new IntakeException(archive, "cannot be unpacked: " + IoProblems.describe(e), e);
        } catch (IllegalArgumentException e) {
            throw new IntakeException(archive, "cannot be unpacked: the archive is damaged", e);
        } finally {
            if (!done) {
                remove(folder);
            }
        }
    }

    private static void remove(Path folder) {
        try {
            AtomicFiles.deleteTree(folder);
        } catch (IOException e) {
            // It is scratch; what made unpacking fail is what counts.
            return;
        }
    }

    /** The first bytes, as many as there are of those wanted, each as a character. */
    private static String start(Path file, int length) throws IOException {
        try (InputStream in = Files.newInputStream(file)) {
            return new String(in.readNBytes(length), StandardCharsets.ISO_8859_1);
        }
    }

    private static void unzip(Path archive, Target target) throws IOException {
        try (ZipFile zip = ZipFile.builder().setPath(archive).get()) {
            List<ZipArchiveEntry> entries = Collections.list(zip.getEntriesInPhysicalOrder());
            for (ZipArchiveEntry entry : entries) {
                String name = name(entry);
                if (entry.getGeneralPurposeBit().usesEncryption()) {
                    throw new IntakeException(archive, "\"" + name + "\" in it is encrypted");
                }
                if (!zip.canReadEntryData(entry)) {
                    throw new IntakeException(archive, "\"" + name + "\" in it is packed in a way that is not known");
                }
                if (entry.isDirectory() || entry.isUnixSymlink()) {
                    target.count(name);
                    continue;
                }
                try (InputStream in = zip.getInputStream(entry)) {
                    target.write(name, in);
                }
            }
        }
    }

    private static String name(ZipArchiveEntry entry) {
        byte[] raw = entry.getRawName();
        return raw == null || entry.getGeneralPurposeBit().usesUTF8ForNames() || isUnicode(raw)
                ? entry.getName()
                : new String(raw, OLD_NAMES);
    }

    private static boolean isUnicode(byte[] name) {
        try {
            StandardCharsets.UTF_8.newDecoder().decode(ByteBuffer.wrap(name));
            return true;
        } catch (CharacterCodingException e) {
            return false;
        }
    }

    private static void untar(Path archive, Target target) throws IOException {
        boolean packed = start(archive, GZIP.length()).equals(GZIP);
        try (InputStream file = new BufferedInputStream(Files.newInputStream(archive), BUFFER);
                InputStream plain = packed ? new GZIPInputStream(file, BUFFER) : file;
                TarArchiveInputStream tar = new TarArchiveInputStream(plain, StandardCharsets.UTF_8.name())) {
            for (TarArchiveEntry entry = tar.getNextEntry(); entry != null; entry = tar.getNextEntry()) {
                if (entry.isFile() && !entry.isSymbolicLink() && !entry.isLink()) {
                    target.write(entry.getName(), tar);
                } else {
                    target.count(entry.getName());
                }
            }
        }
    }

    /** The folder that is filled, and how much it may take. */
    private static final class Target {
        private final Path archive;
        private final Path folder;
        private final int mostEntries;
        private final long mostBytes;
        private final Progress progress;
        private int entries;
        private long bytes;

        Target(Path archive, Path folder, Limits limits, Progress progress) throws IOException {
            this.archive = archive;
            this.folder = folder.toAbsolutePath().normalize();
            this.mostEntries = limits.entries();
            this.mostBytes = limits.allowed(Files.size(archive));
            this.progress = progress;
        }

        void count(String name) {
            if (++entries > mostEntries) {
                throw new IntakeException(
                        archive, "holds more than " + mostEntries + " entries, which is more than is unpacked");
            }
            progress.step("unpacking " + name, -1);
        }

        void write(String name, InputStream in) throws IOException {
            count(name);
            Path file = place(name);
            Files.createDirectories(file.getParent());
            if (Files.exists(file)) {
                throw new IntakeException(archive, "holds \"" + name + "\" twice");
            }
            byte[] buffer = new byte[BUFFER];
            try (OutputStream out = Files.newOutputStream(file)) {
                for (int read = in.read(buffer); read >= 0; read = in.read(buffer)) {
                    bytes += read;
                    if (bytes > mostBytes) {
                        throw new IntakeException(
                                archive,
                                "unpacks to more than " + mostBytes / 1_000_000 + " MB, far more than its own size"
                                        + " explains; unpack it yourself where it can be trusted");
                    }
                    out.write(buffer, 0, read);
                }
            }
        }

        private Path place(String name) {
            String slashed = name.replace('\\', '/');
            try {
                Path place = folder.resolve(slashed).normalize();
                boolean inside = place.startsWith(folder)
                        && !place.equals(folder)
                        && !slashed.startsWith("/")
                        && !slashed.matches("(?s)[A-Za-z]:.*")
                        && !List.of(slashed.split("/")).contains("..");
                if (inside) {
                    return place;
                }
            } catch (InvalidPathException e) {
                throw new IntakeException(archive, "holds \"" + name + "\", which is no name of a file", e);
            }
            throw new IntakeException(archive, "holds \"" + name + "\", which would be put outside of its folder");
        }
    }
}
