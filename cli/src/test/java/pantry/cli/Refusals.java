package pantry.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Stream;
import org.junit.jupiter.api.Assertions;
import pantry.base.Sha256;

/**
 * Calls that are refused: each has to end soon, with the exit status of its kind and a line that says what was wrong, and to
 * leave every file below a folder as it was, to the byte.
 *
 * @param watched the folder that is to stay as it is
 */
record Refusals(Shell shell, Path watched) {
    private static final Duration SOON = Duration.ofSeconds(20);

    /** The words of a call that is written in one line, with quotes around words that hold spaces or nothing. */
    static String[] words(String line) {
        List<String> words = new ArrayList<>();
        for (String piece : line.trim().split(" +(?=(?:[^']*'[^']*')*[^']*$)")) {
            words.add(piece.replace("'", ""));
        }
        return words.toArray(String[]::new);
    }

    void refused(int status, String... call) throws IOException {
        String line = String.join(" ", call);
        Map<String, String> before = files();
        int ended = Assertions.assertTimeoutPreemptively(SOON, () -> shell.run(call), line);
        assertThat(ended).as(line + "\n" + shell.printed() + shell.said()).isEqualTo(status);
        assertThat(shell.said())
                .isNotBlank()
                .doesNotContain("Exception", "\tat ")
                .doesNotContainPattern(": null\\b|\\bnull:");
        assertThat(files()).as(line).isEqualTo(before);
    }

    private Map<String, String> files() throws IOException {
        Map<String, String> files = new TreeMap<>();
        try (Stream<Path> all = Files.walk(watched)) {
            for (Path file : (Iterable<Path>) all::iterator) {
                files.put(file.toString(), Files.isDirectory(file) ? "folder" : Sha256.of(file));
            }
        }
        return files;
    }
}
