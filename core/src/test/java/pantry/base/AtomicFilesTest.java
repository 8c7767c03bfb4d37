package pantry.base;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class AtomicFilesTest {
    @TempDir
    private Path folder;

    @Test
    void writingReplacesTheWholeFileAndLeavesNothingBeside() throws IOException {
        Path file = folder.resolve("card.json");
        AtomicFiles.write(file, "a long first text");
        AtomicFiles.write(file, "new");
        assertThat(file).hasContent("new");
        try (Stream<Path> inside = Files.list(folder)) {
            assertThat(inside).containsExactly(file);
        }
    }

    @Test
    void ofManyWhoCreateAFileExactlyOneSucceeds() {
        Path file = folder.resolve("reservation.json");
        AtomicInteger winners = new AtomicInteger();
        IntStream.range(0, 16).parallel().forEach(i -> {
            try {
                AtomicFiles.create(file, "mine " + i);
                winners.incrementAndGet();
            } catch (FileAlreadyExistsException e) {
                // Somebody else was first.
            } catch (IOException e) {
                throw new java.io.UncheckedIOException(e);
            }
        });
        assertThat(winners).hasValue(1);
        assertThat(file).content().startsWith("mine ");
    }

    @Test
    void aFolderIsNotPublishedOverAnother() throws IOException {
        Path first = Files.createDirectories(folder.resolve("incoming/v001"));
        Files.writeString(first.resolve("a"), "mine");
        Path there = Files.createDirectories(folder.resolve("v001"));
        Files.writeString(there.resolve("a"), "theirs");
        assertThatThrownBy(() -> AtomicFiles.publishFolder(first, there))
                .isInstanceOf(FileAlreadyExistsException.class);
        assertThat(there.resolve("a")).hasContent("theirs");
        assertThat(first.resolve("a")).hasContent("mine");
    }

    /** The checksum of "abc" as FIPS 180-4's example gives it. */
    @Test
    void checksumsAreThoseOfTheStandard() throws IOException {
        Path file = Files.writeString(folder.resolve("abc"), "abc");
        assertThat(Sha256.of(file)).isEqualTo("ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad");
    }

    @Test
    void namesBecomeSlugsAndIdentifiersThatEverySystemTakes() {
        assertThat(Names.slug("Mast, 9 m (Süd)")).isEqualTo("mast-9-m-sud");
        assertThat(Names.slug("???")).isEqualTo("unnamed");
        assertThat(Names.identifier("9 m mast")).isEqualTo("_9_m_mast");
        assertThat(Names.free("Mast", name -> name.equals("Mast") || name.equals("Mast_2")))
                .isEqualTo("Mast_3");
    }

    @Test
    void aFolderIsFilledAsAWholeAndOtherFilesAsEver() throws IOException {
        Path draft = Files.createDirectory(folder.resolve("draft"));
        Path beside = folder.resolve("beside.txt");
        int made = AtomicFiles.draft(draft, () -> {
            Files.createDirectories(draft.resolve("deep/deeper"));
            AtomicFiles.write(draft.resolve("deep/deeper/one.txt"), "one");
            AtomicFiles.write(draft.resolve("two.txt"), "two");
            AtomicFiles.write(draft.resolve("two.txt"), "two again");
            AtomicFiles.write(beside, "beside");
            AtomicFiles.createFolder(draft.resolve("inner"), inner -> AtomicFiles.write(inner.resolve("three"), "3"));
            return 3;
        });
        assertThat(made).isEqualTo(3);
        assertThat(draft.resolve("deep/deeper/one.txt")).hasContent("one");
        assertThat(draft.resolve("two.txt")).hasContent("two again");
        assertThat(draft.resolve("inner/three")).hasContent("3");
        assertThat(beside).hasContent("beside");
        assertThat(AtomicFiles.leftIn(draft)).isEmpty();
    }

    @Test
    void whatGoesWrongWhileAFolderIsFilledIsTold() throws IOException {
        Path draft = Files.createDirectory(folder.resolve("draft"));
        assertThatThrownBy(() -> AtomicFiles.draft(draft, () -> {
                    AtomicFiles.write(draft.resolve("one.txt"), "one");
                    throw new IOException("no room");
                }))
                .isInstanceOf(IOException.class)
                .hasMessage("no room");
        AtomicFiles.write(draft.resolve("one.txt"), "later");
        assertThat(draft.resolve("one.txt")).hasContent("later");
    }
}
