package pantry.desktop.app;

import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.Optional;
import javafx.stage.DirectoryChooser;
import javafx.stage.FileChooser;
import javafx.stage.Window;
import pantry.desktop.controls.Ask;

/** Answers in place of the system's dialogs, one question after the other; then gives up. */
final class Answers implements Ask.Dialogs {
    private final Deque<Path> answers = new ArrayDeque<>();
    private final List<String> asked = new ArrayList<>();

    /** Lets the next questions be answered so. */
    static Answers give(Path... files) {
        Answers answers = new Answers();
        answers.answers.addAll(List.of(files));
        Ask.answerBy(answers);
        return answers;
    }

    /** The titles of what was asked, and the names that were proposed. */
    List<String> asked() {
        return asked;
    }

    private Optional<Path> next(String title) {
        asked.add(title);
        return Optional.ofNullable(answers.poll());
    }

    @Override
    public List<Path> open(FileChooser chooser, Window window, boolean several) {
        return next(chooser.getTitle()).stream().toList();
    }

    @Override
    public Optional<Path> save(FileChooser chooser, Window window) {
        return next(chooser.getTitle() + ": " + chooser.getInitialFileName());
    }

    @Override
    public Optional<Path> folder(DirectoryChooser chooser, Window window) {
        return next(chooser.getTitle());
    }
}
