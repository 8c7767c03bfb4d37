package pantry.usd.edit;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Deque;
import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.function.UnaryOperator;
import org.jspecify.annotations.Nullable;
import pantry.usd.Layer;
import pantry.usd.Spec;
import pantry.usd.edit.LayerMark.Moment;

/**
 * What was done to a stack of layers and what was taken back, as named changes, and which states of the layers were
 * saved. It keeps edits and says which are to be applied; {@link StageEditor} applies them.
 */
final class EditHistory {
    private final List<Layer> layers;
    private final Deque<Change> done = new ArrayDeque<>();
    private final Deque<Change> undone = new ArrayDeque<>();

    /** The last change of each layer, by its number among {@link #layers}, when it was saved. */
    private final Map<Integer, Moment> saved = new HashMap<>();

    /** A named change: edits that are done and undone together. */
    private record Change(String name, List<LayerEdit> edits, List<ChangeEffect> effects, Moment moment) {
        Change(String name, List<LayerEdit> edits, List<ChangeEffect> effects) {
            this(name, edits, effects, new Moment());
        }

        boolean concerns(Layer layer) {
            return edits.stream().anyMatch(edit -> edit.layer() == layer);
        }

        Change in(LayerCopies copies) {
            List<LayerEdit> like = edits.stream().map(edit -> edit.in(copies)).toList();
            return new Change(name, like, effects, moment);
        }
    }

    /** Where a history stands: what was done last, and what was taken back last. */
    record Position(Optional<Moment> done, Optional<Moment> undone) {
        static final Position NONE = new Position(Optional.empty(), Optional.empty());
    }

    /** @param layers that are edited; others that are edited nevertheless are added */
    EditHistory(List<Layer> layers) {
        this.layers = new ArrayList<>(layers);
    }

    List<Layer> layers() {
        return Collections.unmodifiableList(layers);
    }

    /** Copies of the layers, with those specs that only the history still holds. */
    LayerCopies copies() {
        Set<Spec> held = Collections.newSetFromMap(new IdentityHashMap<>());
        done.forEach(change -> change.edits().forEach(edit -> edit.hold(held::add)));
        undone.forEach(change -> change.edits().forEach(edit -> edit.hold(held::add)));
        return new LayerCopies(layers, held);
    }

    /** The same history of copies of the layers. */
    EditHistory in(LayerCopies copies) {
        EditHistory other = new EditHistory(layers.stream().map(copies::of).toList());
        done.forEach(change -> other.done.addLast(change.in(copies)));
        undone.forEach(change -> other.undone.addLast(change.in(copies)));
        other.saved.putAll(saved);
        return other;
    }

    Position position() {
        return new Position(moment(done), moment(undone));
    }

    /** Where the history stood after a change, or before all of them. */
    Position positionAt(Optional<Object> change) {
        Optional<Moment> moment = done.stream()
                .map(Change::moment)
                .filter(each -> change.equals(Optional.of(each)))
                .findFirst();
        if (moment.isEmpty() && change.isPresent()) {
            throw new IllegalStateException("what was done last before was taken back since");
        }
        return new Position(moment, Optional.empty());
    }

    private static Optional<Moment> moment(Deque<Change> changes) {
        return Optional.ofNullable(changes.peek()).map(Change::moment);
    }

    /** Takes note of a change that was done; what had been taken back cannot be done again. */
    void add(String name, List<LayerEdit> edits) {
        done.push(new Change(name, edits, new ArrayList<>()));
        undone.clear();
    }

    /** Whether nothing was done since, or all of it taken back. */
    boolean isLastOf(Position before) {
        return moment(done).equals(before.done());
    }

    /** The names of what was done since, the first first. */
    List<String> namesSince(Position before) {
        return done.stream()
                .takeWhile(change -> !before.done().equals(Optional.of(change.moment())))
                .map(Change::name)
                .toList()
                .reversed();
    }

    /** Makes one change of all that was done since. */
    void joinSince(Position before, String name) {
        Deque<Change> parts = new ArrayDeque<>();
        while (!isLastOf(before)) {
            parts.push(done.pop());
        }
        if (!parts.isEmpty()) {
            List<LayerEdit> edits = new ArrayList<>();
            List<ChangeEffect> effects = new ArrayList<>();
            for (Change part : parts) {
                edits.addAll(part.edits());
                effects.addAll(part.effects());
            }
            done.push(new Change(name, edits, effects));
        }
    }

    /** Lets the last undone change never be done again. */
    void forgetUndone() {
        undone.poll();
    }

    /** @throws IllegalStateException where there is no change that the effect could belong to */
    void attach(ChangeEffect effect) {
        Change last = done.peek();
        if (last == null) {
            throw new IllegalStateException("there is no change that the effect could belong to");
        }
        last.effects().add(effect);
    }

    Optional<String> undoName() {
        return Optional.ofNullable(done.peek()).map(Change::name);
    }

    Optional<String> redoName() {
        return Optional.ofNullable(undone.peek()).map(Change::name);
    }

    /** Takes back the last change, its effects after its edits. */
    void undo(Consumer<List<LayerEdit>> apply) {
        Change change = done.poll();
        if (change != null) {
            undone.push(change);
            apply.accept(
                    change.edits().reversed().stream().map(LayerEdit::inverse).toList());
            change.effects().reversed().forEach(ChangeEffect::undo);
        }
    }

    /** Does the last undone change again, its effects first, for its edits may refer to what they make. */
    void redo(Consumer<List<LayerEdit>> apply) {
        Change change = undone.peek();
        if (change != null) {
            change.effects().forEach(ChangeEffect::redo);
            undone.poll();
            done.push(change);
            apply.accept(change.edits());
        }
    }

    /** How many prims undo would bring back; 0 for a change with effects. */
    int undoSize() {
        return size(done, LayerEdit::inverse);
    }

    /** How many prims redo would bring back; 0 for a change with effects. */
    int redoSize() {
        return size(undone, edit -> edit);
    }

    private static int size(Deque<Change> changes, UnaryOperator<LayerEdit> edit) {
        return Optional.ofNullable(changes.peek())
                .filter(change -> change.effects().isEmpty())
                .stream()
                .flatMap(change -> change.edits().stream())
                .mapToInt(each -> edit.apply(each).coming())
                .sum();
    }

    /** The layers that differ from what was last read or saved. */
    List<Layer> unsaved() {
        Set<Layer> touched = Collections.newSetFromMap(new IdentityHashMap<>());
        done.forEach(change -> change.edits().forEach(edit -> touched.add(edit.layer())));
        saved.keySet().forEach(number -> touched.add(layers.get(number)));
        return touched.stream()
                .filter(layer -> last(layer) != saved.get(number(layer)))
                .toList();
    }

    private int number(Layer layer) {
        if (!layers.contains(layer)) {
            layers.add(layer);
        }
        return layers.indexOf(layer);
    }

    /**
     * What was done since a layer was read or saved last, the last first. Where more was taken back than was done since,
     * that, in words.
     */
    List<String> unsavedNames(Layer layer) {
        Moment mark = saved.get(number(layer));
        if (mark == null || done.stream().anyMatch(change -> change.moment() == mark)) {
            return done.stream()
                    .takeWhile(change -> change.moment() != mark)
                    .map(Change::name)
                    .toList();
        }
        List<String> names = new ArrayList<>();
        for (Change change : undone) {
            names.add("took back: " + change.name());
            if (change.moment() == mark) {
                break;
            }
        }
        return names.reversed();
    }

    private @Nullable Moment last(Layer layer) {
        return done.stream()
                .filter(change -> change.concerns(layer))
                .findFirst()
                .map(Change::moment)
                .orElse(null);
    }

    /** The state that a layer is in now. */
    LayerMark mark(Layer layer) {
        return new LayerMark(number(layer), last(layer));
    }

    /** Takes note that a layer was saved as it was then. */
    void markSaved(LayerMark mark) {
        if (mark.last == null) {
            saved.remove(mark.layer);
        } else {
            saved.put(mark.layer, mark.last);
        }
    }

    /** Takes over from the history that this one was copied of which states were saved, some of them meanwhile. */
    void setSaved(EditHistory original) {
        saved.clear();
        saved.putAll(original.saved);
    }
}
