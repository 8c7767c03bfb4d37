package pantry.desktop.receive;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import pantry.base.Progress;
import pantry.exchange.format.Imported;
import pantry.intake.Carried;
import pantry.intake.LostTextures;
import pantry.intake.Survey;
import pantry.model.Axis;
import pantry.model.Model;
import pantry.render.Thumbnails;
import pantry.workbench.Workbench;

/** Reads arrivals, with the textures that were found for them meanwhile. For background threads. */
final class ArrivalReader {
    private static final int PICTURE = 64;

    private final Workbench workbench;
    private final List<Path> textureFolders = new ArrayList<>();
    private volatile LostTextures lost = LostTextures.in(List.of(), Progress.NONE);

    /** What was found in an arrival, and a small picture of it, PNG. */
    record Found(Survey survey, byte[] picture) {}

    ArrivalReader(Workbench workbench) {
        this.workbench = workbench;
    }

    /** Reads a file, unless what was read of it is still there. */
    Imported load(Arrival arrival, Progress progress) {
        Optional<Imported> known = arrival.contents();
        Imported read = known.orElseGet(() -> arrival.isAlone()
                ? workbench.intake().readAlone(arrival.file(), progress)
                : workbench.intake().read(arrival.file(), progress));
        Imported found = lost.on(read);
        arrival.setContents(found);
        return found;
    }

    /** Reads a file, measures it and draws the thing itself, without its ground and sky. */
    Found survey(Arrival arrival, Progress progress) {
        Imported read = load(arrival, progress);
        Model wanted = Carried.without(read.model(), read.up().orElse(Axis.Y), Set.of());
        return new Found(Survey.of(read), Thumbnails.png(wanted, workbench.renderCache(), PICTURE));
    }

    /** From now on, missing textures are looked for in a folder too. */
    synchronized void lookIn(Path folder, Progress progress) {
        textureFolders.add(folder);
        lost = LostTextures.in(textureFolders, progress);
    }
}
