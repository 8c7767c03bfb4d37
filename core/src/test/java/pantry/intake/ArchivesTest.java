package pantry.intake;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.zip.GZIPOutputStream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.apache.commons.compress.archivers.tar.TarArchiveEntry;
import org.apache.commons.compress.archivers.tar.TarArchiveOutputStream;
import org.apache.commons.compress.archivers.tar.TarConstants;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import pantry.base.Progress;

class ArchivesTest {
    private static final Archives.Limits SMALL = new Archives.Limits(20, 1_000_000, 10);

    @TempDir
    private Path folder;

    private Path zip(String name, Charset names, String... entries) throws IOException {
        Path file = folder.resolve(name);
        try (ZipOutputStream zip = new ZipOutputStream(Files.newOutputStream(file), names)) {
            for (String entry : entries) {
                zip.putNextEntry(new ZipEntry(entry));
                zip.write(entry.getBytes(StandardCharsets.UTF_8));
            }
        }
        return file;
    }

    private Path unpacked(Path archive) {
        Path target = folder.resolve("out");
        new Archives(SMALL).unpack(archive, target, Progress.NONE);
        return target;
    }

    private void isRefused(Path archive, String words) {
        assertThatThrownBy(() -> unpacked(archive))
                .isInstanceOfSatisfying(IntakeException.class, refused -> assertThat(refused.line())
                        .contains(archive.getFileName().toString())
                        .contains(words));
        assertThat(folder.resolve("out")).as("nothing half unpacked stays").doesNotExist();
        assertThat(folder.resolve("escaped.obj")).doesNotExist();
    }

    @Test
    void aZipIsUnpackedWithItsFolders() throws IOException {
        Path out =
                unpacked(zip("pack.zip", StandardCharsets.UTF_8, "masts/", "masts/a.obj", "masts/größe.mtl", "b.stl"));
        assertThat(out.resolve("masts/a.obj")).hasContent("masts/a.obj");
        assertThat(out.resolve("masts/größe.mtl")).exists();
        assertThat(Intake.files(List.of(out))).hasSize(2);
    }

    @Test
    void namesOfOlderZipsKeepTheirLetters() throws IOException {
        assertThat(unpacked(zip("old.zip", Charset.forName("IBM437"), "größe.obj"))
                        .resolve("größe.obj"))
                .exists();
    }

    private Path tar(String name, boolean packed, TarArchiveEntry... entries) throws IOException {
        Path file = folder.resolve(name);
        try (OutputStream plain = Files.newOutputStream(file);
                OutputStream out = packed ? new GZIPOutputStream(plain) : plain;
                TarArchiveOutputStream tar = new TarArchiveOutputStream(out, StandardCharsets.UTF_8.name())) {
            for (TarArchiveEntry entry : entries) {
                boolean isFile = !entry.isSymbolicLink() && !entry.isLink();
                entry.setSize(isFile ? 3 : 0);
                tar.putArchiveEntry(entry);
                if (isFile) {
                    tar.write(new byte[] {1, 2, 3});
                }
                tar.closeArchiveEntry();
            }
        }
        return file;
    }

    @Test
    void tarsAreUnpackedWithoutTheirLinks() throws IOException {
        TarArchiveEntry link = new TarArchiveEntry("link.obj", TarConstants.LF_SYMLINK);
        link.setLinkName("/etc/passwd");
        TarArchiveEntry hard = new TarArchiveEntry("hard.obj", TarConstants.LF_LINK);
        hard.setLinkName("../escaped.obj");
        Path archive = tar("pack.tar.gz", true, new TarArchiveEntry("deep/a.obj"), link, hard);
        assertThat(Archives.isArchive(archive)).isTrue();
        Path out = unpacked(archive);
        assertThat(out.resolve("deep/a.obj")).hasBinaryContent(new byte[] {1, 2, 3});
        assertThat(out.resolve("link.obj")).doesNotExist();
        assertThat(out.resolve("hard.obj")).doesNotExist();
    }

    @Test
    void aPlainTarIsToldByItsContent() throws IOException {
        assertThat(Archives.isArchive(tar("pack.bin", false, new TarArchiveEntry("a.obj"))))
                .isTrue();
        assertThat(Archives.isArchive(Files.writeString(folder.resolve("text.zip"), "no archive")))
                .isFalse();
        assertThat(Archives.isArchive(zip("pack.usdz", StandardCharsets.UTF_8, "a.usda")))
                .as("a package is a file of its own kind")
                .isFalse();
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "../escaped.obj",
                "a/../../escaped.obj",
                "/escaped.obj",
                "..\\escaped.obj",
                "C:/escaped.obj",
                "a/.."
            })
    void entriesThatLeaveTheFolderAreRefused(String entry) throws IOException {
        isRefused(zip("bad.zip", StandardCharsets.UTF_8, "good.obj", entry), "outside of its folder");
    }

    @Test
    void whatUnpacksToFarMoreThanItsSizeIsRefused() throws IOException {
        Path file = folder.resolve("bomb.zip");
        try (ZipOutputStream zip = new ZipOutputStream(Files.newOutputStream(file))) {
            zip.putNextEntry(new ZipEntry("zeros.obj"));
            byte[] zeros = new byte[1 << 16];
            for (int i = 0; i < 40; i++) {
                zip.write(zeros);
            }
        }
        isRefused(file, "far more than its own size");
    }

    @Test
    void tooManyEntriesAreRefused() throws IOException {
        String[] names = new String[30];
        for (int i = 0; i < names.length; i++) {
            names[i] = i + ".obj";
        }
        isRefused(zip("many.zip", StandardCharsets.UTF_8, names), "more than 20 entries");
    }

    @Test
    void damagedArchivesAreRefused() throws IOException {
        byte[] bytes = Files.readAllBytes(zip("whole.zip", StandardCharsets.UTF_8, "a.obj", "b.obj"));
        for (int length : new int[] {4, 10, bytes.length / 2, bytes.length - 3}) {
            isRefused(Files.write(folder.resolve("cut.zip"), Arrays.copyOf(bytes, length)), "cannot be unpacked");
        }
        byte[] packed =
                Files.readAllBytes(tar("whole.tgz", true, new TarArchiveEntry("a.obj"), new TarArchiveEntry("b.obj")));
        isRefused(
                Files.write(folder.resolve("cut.tgz"), Arrays.copyOf(packed, packed.length / 2)), "cannot be unpacked");
    }

    @Test
    void aFileThatStandsThereTwiceIsRefused() throws IOException {
        isRefused(tar("twice.tar", false, new TarArchiveEntry("a.obj"), new TarArchiveEntry("a.obj")), "twice");
    }
}
