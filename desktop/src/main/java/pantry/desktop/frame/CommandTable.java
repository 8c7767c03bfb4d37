package pantry.desktop.frame;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Stream;
import pantry.desktop.workplace.Command;
import pantry.desktop.workplace.Workplace;

/** All commands: those of the frame, which count everywhere, and those of the workplaces. */
final class CommandTable {
    private final Navigator navigator;
    private final List<Entry> entries = new ArrayList<>();

    /** @param workplace where it belongs; absent where it counts everywhere */
    record Entry(Optional<Workplace> workplace, Command command) {
        String group() {
            return workplace.map(Workplace::name).orElse("Everywhere");
        }
    }

    CommandTable(Navigator navigator, List<Command> everywhere) {
        this.navigator = navigator;
        everywhere.forEach(command -> entries.add(new Entry(Optional.empty(), command)));
        navigator.workplaces().forEach(workplace -> workplace
                .commands()
                .forEach(command -> entries.add(new Entry(Optional.of(workplace), command))));
    }

    /** Those whose keys count now. */
    Stream<Command> here() {
        return entries.stream().filter(this::isHere).map(Entry::command);
    }

    /** Those whose name holds all words of a text, in small letters; what counts here before what would go elsewhere. */
    Stream<Entry> named(String text) {
        List<String> words = List.of(text.split("\\s+"));
        return entries.stream()
                .filter(entry -> {
                    String name = entry.command().name().toLowerCase(Locale.ROOT);
                    return words.stream().allMatch(name::contains);
                })
                .sorted(Comparator.comparing(entry -> !isHere(entry)));
    }

    private boolean isHere(Entry entry) {
        return entry.workplace().map(navigator.currentProperty().get()::equals).orElse(true);
    }

    /** Runs a command that was found by its name, in its workplace. */
    void run(Entry entry) {
        entry.workplace().ifPresent(navigator::go);
        entry.command().action().run();
    }
}
