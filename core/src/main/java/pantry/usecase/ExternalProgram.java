package pantry.usecase;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import pantry.base.PantryException;

/**
 * A program that files are opened in, as a person writes its command: a path, which may have blanks, or a name that the
 * system finds, then options. What has blanks may be put into quotation marks.
 */
record ExternalProgram(List<String> command) {
    private static final Pattern WORD = Pattern.compile("\"([^\"]*)\"|'([^']*)'|(\\S+)");

    /** Pantry's own settings, the index's address with its password above all, and what is called a secret. */
    private static final Pattern WITHHELD = Pattern.compile(
            "PANTRY_.*|PG[A-Z]+|.*(PASSWORD|PASSWD|SECRET|TOKEN|CREDENTIAL|API_?KEY).*", Pattern.CASE_INSENSITIVE);

    ExternalProgram {
        command = List.copyOf(command);
    }

    /** @throws PantryException where nothing is written */
    static ExternalProgram of(String written) {
        String text = written.strip();
        if (text.isEmpty()) {
            throw new PantryException("no program is named to open the file with");
        }
        // A path with blanks that nobody quoted: the longest beginning that is a program.
        for (int end = text.length(); end > 0; end = text.lastIndexOf(' ', end - 1)) {
            String path = text.substring(0, end).strip();
            if (isProgram(path)) {
                List<String> command = new ArrayList<>(List.of(path));
                command.addAll(words(text.substring(end)));
                return new ExternalProgram(command);
            }
        }
        return new ExternalProgram(words(text));
    }

    private static boolean isProgram(String path) {
        try {
            return path.matches(".*[/\\\\].*")
                    && Files.isRegularFile(Path.of(path))
                    && Files.isExecutable(Path.of(path));
        } catch (InvalidPathException e) {
            return false;
        }
    }

    private static List<String> words(String text) {
        List<String> words = new ArrayList<>();
        for (Matcher each = WORD.matcher(text); each.find(); ) {
            words.add(each.group(1) != null ? each.group(1) : each.group(2) != null ? each.group(2) : each.group(3));
        }
        return words;
    }

    /**
     * Opens a file in it.
     *
     * @throws PantryException where the program cannot be started
     */
    Process open(Path file) {
        Path absolute = file.toAbsolutePath().normalize();
        List<String> call = new ArrayList<>(command);
        call.set(0, located(call.getFirst()));
        call.add(absolute.toString());
        ProcessBuilder builder = new ProcessBuilder(call)
                .directory(absolute.getParent().toFile())
                .redirectErrorStream(true)
                .redirectOutput(ProcessBuilder.Redirect.DISCARD);
        builder.environment().keySet().removeIf(name -> WITHHELD.matcher(name).matches());
        try {
            return builder.start();
        } catch (IOException e) {
            throw new PantryException(
                    null, null, "the program \"" + call.getFirst() + "\" cannot be started: check its name", e);
        }
    }

    /** A relative path means the folder that the command was given in, not the file's. */
    private static String located(String program) {
        return isProgram(program)
                ? Path.of(program).toAbsolutePath().normalize().toString()
                : program;
    }
}
