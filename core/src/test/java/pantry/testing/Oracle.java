package pantry.testing;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Assumptions;

/** Runs the independent programs of {@code oracle/} in Node. */
public final class Oracle {
    private static final Path FOLDER = Path.of("../oracle").toAbsolutePath().normalize();

    private Oracle() {}

    /**
     * Runs a script with arguments and returns what it prints. Without the programs the test is skipped with a visible
     * line; where {@code PANTRY_ORACLE=required} is set, as in CI, that is a failure.
     */
    public static String run(String script, String... arguments) {
        if (!Files.exists(FOLDER.resolve("node_modules"))) {
            String line = "SKIPPED: the independent checkers are not installed (npm ci in oracle/)";
            System.err.println(line);
            if ("required".equals(System.getenv("PANTRY_ORACLE"))) {
                throw new AssertionError(line);
            }
            Assumptions.abort(line);
        }
        List<String> command =
                new ArrayList<>(List.of("node", FOLDER.resolve(script).toString()));
        command.addAll(List.of(arguments));
        try {
            Path out = Files.createTempFile("oracle-", ".txt");
            Path err = Files.createTempFile("oracle-", ".err");
            Process process = new ProcessBuilder(command)
                    .directory(FOLDER.toFile())
                    .redirectOutput(out.toFile())
                    .redirectError(err.toFile())
                    .start();
            if (!process.waitFor(5, TimeUnit.MINUTES)) {
                process.destroyForcibly();
                throw new AssertionError(script + " did not end within five minutes");
            }
            String printed = Files.readString(out, StandardCharsets.UTF_8);
            if (process.exitValue() != 0) {
                throw new AssertionError(script + " failed: " + Files.readString(err) + printed);
            }
            Files.delete(out);
            Files.delete(err);
            return printed;
        } catch (IOException e) {
            throw new AssertionError(script + " could not be run", e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new AssertionError(e);
        }
    }
}
