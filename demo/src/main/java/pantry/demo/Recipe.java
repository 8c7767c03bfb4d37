package pantry.demo;

import java.util.List;
import pantry.model.Model;

/**
 * A model with its place in the library.
 *
 * @param later its next versions, each with the note that was given
 */
record Recipe(String shelf, Model model, List<String> tags, List<Later> later) {
    /**
     * A later version.
     *
     * @param ready whether scenes that follow get it; a draft otherwise
     */
    record Later(Model model, String note, boolean ready) {}

    static Recipe of(String shelf, Model model, String... tags) {
        return new Recipe(shelf, model, List.of(tags), List.of());
    }

    /** This asset with one more version. */
    Recipe then(Model next, String note, boolean ready) {
        List<Later> more = new java.util.ArrayList<>(later);
        more.add(new Later(next, note, ready));
        return new Recipe(shelf, model, tags, List.copyOf(more));
    }
}
