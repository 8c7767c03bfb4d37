package pantry.desktop.session;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import pantry.library.Library;
import pantry.workpiece.Workpiece;

/** The files that wait to be taken in, for workplaces that do something else with them. */
public interface ArrivalSource {
    /** Those that are not on a shelf yet, in the order in which they arrived. */
    List<Path> waitingFiles();

    /** How the figures of one of them are understood, as its slip says; empty where it has none. */
    Optional<Workpiece.Reading> reading(Path file);

    /** The library that they are going to be shelved in; absent where none is open. */
    Optional<Library> target();
}
