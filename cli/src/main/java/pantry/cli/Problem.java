package pantry.cli;

import java.util.List;
import java.util.Optional;
import java.util.concurrent.CancellationException;
import pantry.base.PantryException;
import picocli.CommandLine;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.UnmatchedArgumentException;

/**
 * Why a command did not do what it was asked for, as scripts are told it: the fields' names are what they rely on.
 *
 * @param file the file that it concerns
 * @param place the place within that file
 * @param hint what can be done about it
 */
record Problem(Code code, Optional<String> file, Optional<String> place, String message, Optional<String> hint) {
    /** What kind of problem it is. */
    enum Code {
        /** The command was called wrongly. */
        CALL,
        /** What is outside of the program is not as it has to be. */
        REFUSED,
        /** The work was stopped. */
        CANCELLED,
        /** A fault of Pantry's own. */
        FAULT
    }

    /** Of a command that failed at its work. */
    static Problem of(Exception exception) {
        return switch (exception) {
            case PantryException e ->
                new Problem(Code.REFUSED, e.file(), e.place(), String.valueOf(e.getMessage()), Optional.empty());
            case CancellationException e -> plain(Code.CANCELLED, String.valueOf(e.getMessage()), Optional.empty());
            default -> {
                String message = exception.getMessage();
                yield plain(
                        Code.FAULT,
                        exception.getClass().getSimpleName() + (message == null ? "" : ": " + message),
                        Optional.of("this is a fault of Pantry's own"));
            }
        };
    }

    /** Of a command that was called wrongly. */
    static Problem of(ParameterException exception) {
        CommandLine command = exception.getCommandLine();
        String help = command.getCommandSpec().qualifiedName() + " --help tells what it takes";
        if (exception instanceof UnmatchedArgumentException unmatched) {
            String first = unmatched.getUnmatched().getFirst();
            List<String> alike = unmatched.getSuggestions();
            boolean ofCommands = command.getParent() == null && !unmatched.isUnknownOption();
            return plain(
                    Code.CALL,
                    (ofCommands ? "there is no command “" : "it does not take “") + first + "”",
                    Optional.of(
                            alike.isEmpty()
                                    ? help
                                    : "did you mean " + String.join(" or ", alike.subList(0, Math.min(2, alike.size())))
                                            + "?"));
        }
        return plain(Code.CALL, String.valueOf(exception.getMessage()), Optional.of(help));
    }

    private static Problem plain(Code code, String message, Optional<String> hint) {
        return new Problem(code, Optional.empty(), Optional.empty(), message, hint);
    }

    /** In one line, for a person. */
    String line() {
        StringBuilder line = new StringBuilder();
        file.ifPresent(each -> line.append(each).append(": "));
        place.ifPresent(each -> line.append(each).append(": "));
        line.append(message.strip().replaceAll("\\.$", ""));
        hint.ifPresent(each -> line.append("; ").append(each));
        return line.toString();
    }
}
