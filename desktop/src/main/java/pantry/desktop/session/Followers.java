package pantry.desktop.session;

import java.util.HashSet;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import pantry.library.Asset;
import pantry.project.Reach;

/**
 * Who gets a new version of an asset at once: the placements in the open projects that follow it.
 *
 * @param files in which they stand
 * @param placements as composed
 */
public record Followers(int files, long placements) {
    /** Tells them, counted in the background; nothing where no project is open, or its files are not read yet. */
    public static void ask(Session session, String asset, Consumer<Followers> then) {
        Optional<Reach> reach = session.reachProperty().get();
        reach.ifPresent(known -> session.answer(
                "counting who follows",
                progress -> known.byId(asset).map(each -> of(known, each)).orElse(new Followers(0, 0)),
                then));
    }

    static Followers of(Reach reach, Asset asset) {
        Set<Object> files = new HashSet<>();
        long placements = 0;
        for (Reach.SceneUse use : reach.uses(asset, Optional.empty())) {
            if (use.following()) {
                files.add(use.file());
                placements += use.placements();
            }
        }
        return new Followers(files.size(), placements);
    }

    /** Whether nobody sees a new version unless told to. */
    public boolean isNobody() {
        return placements == 0;
    }

    /** For a person: {@code 3 scenes, 12 placements}. */
    public String words() {
        return isNobody() ? "nobody" : Units.counted(files, "scene") + ", " + Units.counted(placements, "placement");
    }
}
