package pantry.usd.edit;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import pantry.base.FileGate;
import pantry.usd.AssetLocation;
import pantry.usd.Layer;
import pantry.usd.Layers;
import pantry.usd.SdfPath;
import pantry.usd.UsdException;
import pantry.usd.compose.Population;
import pantry.usd.compose.Stage;
import pantry.usd.compose.StageChange;
import pantry.usd.file.Assets;
import pantry.usd.file.LayerFiles;

/**
 * A stage under edit: named changes of its layers that are done as a whole or not at all, undone and redone, and told
 * to listeners as what they changed of the stage.
 *
 * <p>Only the layers of the root's own stack are edited. They are held apart from those that other stages use. To be
 * used by one thread at a time; another may read the layers in {@link #undisturbed} meanwhile.
 *
 * <p>Undoing applies inverse edits; a change costs the memory of what it replaced, not that of the layer.
 */
public final class StageEditor {
    /** Layers from elsewhere, which are not edited here. */
    private final Layers others;

    private Population population;
    private Layer root;

    /** The layers that are edited, those of the root's own stack and the root among them, with what was done to them. */
    private EditHistory history;

    private final List<Consumer<StageChange>> listeners = new ArrayList<>();
    private final Notice notice = new Notice();
    private int reloads;
    private Origin origin = Origin.NONE;
    private @Nullable Stage stage;
    private EditTarget target;

    /**
     * What a fork was made of.
     *
     * @param history where the history stood then
     * @param reloads how often everything had been composed anew
     */
    private record Origin(EditHistory.Position history, int reloads) {
        static final Origin NONE = new Origin(EditHistory.Position.NONE, 0);
    }

    /** What transactions edit. */
    private final Transaction.Backing backing = new Transaction.Backing() {
        @Override
        public Stage stage() {
            return StageEditor.this.stage();
        }

        @Override
        public void run(LayerEdit edit) {
            StageEditor.this.run(edit);
        }

        @Override
        public StageChange takeIn() {
            return StageEditor.this.takeIn();
        }
    };

    private StageEditor(Layer root, EditHistory history, Layers others, Population population) {
        this.root = root;
        this.history = history;
        this.others = others;
        this.population = population;
        this.target = EditTarget.of(root);
    }

    /**
     * Opens a file for editing.
     *
     * @throws UsdException where it cannot be read
     */
    public static StageEditor open(Path file, Layers layers, Population population) {
        return of(LayerFiles.read(AssetLocation.of(file)), layers, population);
    }

    /** Edits a layer that is at hand; its sublayers are read from their files. */
    public static StageEditor of(Layer root, Layers layers, Population population) {
        Map<AssetLocation, Layer> own = new LinkedHashMap<>();
        root.location().ifPresent(location -> own.put(location, root));
        readSubLayers(root, layers, own);
        List<Layer> all = new ArrayList<>(own.values());
        if (root.location().isEmpty()) {
            all.add(root);
        }
        return new StageEditor(root, new EditHistory(all), layers, population);
    }

    /**
     * Another editor of the same, with the history of this one, so that a change that takes long can be made in it
     * elsewhere; {@link #adopt} takes over what came of it. Neither sees what is done with the other.
     */
    public synchronized StageEditor fork() {
        LayerCopies copies = history.copies();
        StageEditor other = new StageEditor(copies.of(root), history.in(copies), others, population);
        other.target = new EditTarget(copies.of(target.layer()), target.variant(), target.whereSaid());
        other.origin = new Origin(history.position(), reloads);
        return other;
    }

    /**
     * Goes on with what a fork of this editor came to; the fork is not to be used any more.
     *
     * @return whether its stage is this one's from now on; otherwise files were looked at again meanwhile, or other parts are
     *     composed, so that it is composed anew
     * @throws IllegalStateException where it is none, or this one was edited since
     */
    public synchronized boolean adopt(StageEditor other) {
        if (!isAsForked(other)) {
            throw new IllegalStateException("what was edited since the fork would be lost");
        }
        root = other.root;
        other.history.setSaved(history);
        history = other.history;
        target = other.target;
        boolean current = other.origin.reloads() == reloads && other.population.equals(population);
        stage = current ? other.stage : null;
        tell(new StageChange(Set.of(SdfPath.ROOT), Set.of()));
        return current;
    }

    /** Whether another editor is a fork of this one, and nothing was done here since. */
    public boolean isAsForked(StageEditor other) {
        return other.others == others && other.origin.history().equals(history.position());
    }

    private static void readSubLayers(Layer layer, Layers layers, Map<AssetLocation, Layer> own) {
        for (Layer.SubLayer sub : layer.subLayers()) {
            AssetLocation place = layers.resolve(layer, sub.asset());
            if (!own.containsKey(place)) {
                try {
                    Assets.require(place, layers.gate());
                    Layer read = LayerFiles.read(place);
                    own.put(place, read);
                    readSubLayers(read, layers, own);
                } catch (UsdException e) {
                    // The stage reports what cannot be read, with the way that leads to it.
                    continue;
                }
            }
        }
    }

    /** Layers from elsewhere, but for those that are edited here. */
    private Layers layers() {
        Map<AssetLocation, Layer> edited = new HashMap<>();
        history.layers().forEach(layer -> layer.location().ifPresent(location -> edited.put(location, layer)));
        return new Layers() {
            @Override
            public FileGate gate() {
                return others.gate();
            }

            @Override
            public Layer open(AssetLocation location) {
                Layer layer = edited.get(location);
                return layer == null ? others.open(location) : layer;
            }

            @Override
            public AssetLocation resolve(Layer anchor, String asset) {
                return others.resolve(anchor, asset);
            }
        };
    }

    public Layer rootLayer() {
        return root;
    }

    /** The stage as the edits left it; composed when first asked for. Another one after edits of the layer stack. */
    public Stage stage() {
        Stage current = stage;
        if (current == null) {
            current = Stage.open(root, layers(), population);
            stage = current;
        }
        return current;
    }

    /** Composes everything anew when it is next asked for, as after files that are referred to have changed. */
    public void reload() {
        stage = null;
        reloads++;
        tell(new StageChange(Set.of(SdfPath.ROOT), Set.of()));
    }

    /** Composes other parts from now on, such as without some payloads. */
    public void populate(Population other) {
        population = other;
        reload();
    }

    /** Where edits go. */
    public EditTarget target() {
        return target;
    }

    /**
     * Says where edits go from now on.
     *
     * @throws UsdException where the layer is not of the stack, or cannot be written
     */
    public void setTarget(EditTarget target) {
        Layer layer = target.layer();
        if (stage().layerStack().stream().noneMatch(member -> member == layer)) {
            throw new UsdException(layer.name() + " is not among the layers of " + root.name());
        }
        EditTarget.checkWritable(layer, root);
        this.target = target;
    }

    /** Calls a listener after each change, undo and redo; the answer takes it away again. */
    public Runnable onChange(Consumer<StageChange> listener) {
        listeners.add(listener);
        return () -> listeners.remove(listener);
    }

    /**
     * Does a change. Where the work fails, nothing is changed, and listeners are told of what was composed anew for that;
     * where a listener fails, the change stands, and the others are told of it all the same.
     *
     * @param name for a person, as undo will show it
     * @return what the work returned
     */
    public synchronized <R> R change(String name, Function<Transaction, R> work) {
        Transaction transaction = new Transaction(backing, target);
        R result;
        StageChange change;
        try {
            result = work.apply(transaction);
            change = transaction.change();
        } catch (RuntimeException | Error e) {
            transaction.close().reversed().forEach(edit -> run(edit.inverse()));
            // All is said as before, but prims that were looked at meanwhile are composed anew, prototypes among them.
            try {
                tell(transaction.change());
            } catch (RuntimeException told) {
                e.addSuppressed(told);
            }
            throw e;
        }
        List<LayerEdit> edits = transaction.close();
        if (!edits.isEmpty()) {
            history.add(name, edits);
            tell(change);
        }
        return result;
    }

    /** Does a change that returns nothing. */
    public void changeAll(String name, Consumer<Transaction> work) {
        change(name, transaction -> {
            work.accept(transaction);
            return Boolean.TRUE;
        });
    }

    /**
     * Does several changes as one: they are undone and redone together. Where the work fails, none of them stands.
     *
     * @param name for a person, as undo will show it
     */
    public synchronized <R> R together(String name, Supplier<R> work) {
        EditHistory.Position before = history.position();
        R result;
        try {
            result = work.get();
        } catch (RuntimeException | Error e) {
            giveUpSince(before);
            throw e;
        }
        history.joinSince(before, name);
        return result;
    }

    /**
     * Takes back what was done since a change, never to be done again: where only a part of what was meant came about.
     *
     * @param before as {@link #lastChange} told it; empty for the beginning
     * @throws IllegalStateException where it was taken back since
     */
    public void giveUpSince(Optional<Object> before) {
        giveUpSince(history.positionAt(before));
    }

    private synchronized void giveUpSince(EditHistory.Position before) {
        while (!history.isLastOf(before)) {
            undo();
            history.forgetUndone();
        }
    }

    /**
     * Makes one change of those that were done since another one, to be undone and redone together.
     *
     * @param before as {@link #lastChange} told it; empty for the beginning
     * @throws IllegalStateException where it was taken back since
     */
    public synchronized void joinSince(Optional<Object> before) {
        EditHistory.Position since = history.positionAt(before);
        List<String> names = history.namesSince(since);
        if (names.size() > 1) {
            history.joinSince(since, names.stream().distinct().collect(Collectors.joining(", ")));
        }
    }

    /**
     * Reads the layers while nothing is changed, on any thread: a change by another waits until it is done. For work that
     * takes a moment, such as a copy.
     */
    public synchronized <R> R undisturbed(Supplier<R> reading) {
        return reading.get();
    }

    private void run(LayerEdit edit) {
        edit.apply();
        edit.tell(notice);
    }

    /** Lets the stage take in what was edited since the last time. */
    private StageChange takeIn() {
        if (notice.isEverything()) {
            stage = null;
            notice.update(stage());
            return new StageChange(Set.of(SdfPath.ROOT), Set.of());
        }
        return notice.update(stage());
    }

    private void tell(StageChange change) {
        if (change.isEmpty()) {
            return;
        }
        RuntimeException first = null;
        for (Consumer<StageChange> listener : List.copyOf(listeners)) {
            try {
                listener.accept(change);
            } catch (RuntimeException e) {
                if (first == null) {
                    first = e;
                } else {
                    first.addSuppressed(e);
                }
            }
        }
        if (first != null) {
            throw first;
        }
    }

    /**
     * Lets the last change have an effect that is taken back, and done again, with it; in forks too.
     *
     * @throws IllegalStateException where there is no change
     */
    public synchronized void attach(ChangeEffect effect) {
        history.attach(effect);
    }

    /** What undo would take back. */
    public Optional<String> undoName() {
        return history.undoName();
    }

    /** What redo would do again. */
    public Optional<String> redoName() {
        return history.redoName();
    }

    /** What undo would take back, as something that is told from all other changes; in forks it is the same. */
    public Optional<Object> lastChange() {
        return history.position().done().map(moment -> moment);
    }

    /** What redo would do again, as it was told by {@link #lastChange} before. */
    public Optional<Object> lastUndone() {
        return history.position().undone().map(moment -> moment);
    }

    /** Takes back the last change; nothing where there is none. */
    public synchronized void undo() {
        history.undo(edits -> {
            edits.forEach(this::run);
            tell(takeIn());
        });
    }

    /**
     * Does the last undone change again; nothing where there is none, and where one of its effects cannot be done again.
     */
    public synchronized void redo() {
        history.redo(edits -> {
            edits.forEach(this::run);
            tell(takeIn());
        });
    }

    /** The layers that differ from what was last read or saved. */
    public List<Layer> unsaved() {
        return history.unsaved();
    }

    /**
     * What was done since the root layer was read or saved last, the last first. Where more was taken back than was done
     * since, that, in words.
     */
    public List<String> unsavedNames() {
        return history.unsavedNames(root);
    }

    /** The state that a layer is in now. */
    public LayerMark mark(Layer layer) {
        return history.mark(layer);
    }

    /** Takes note that a layer was saved as it is now. */
    public synchronized void markSaved(Layer layer) {
        history.markSaved(history.mark(layer));
    }

    /** Takes note that a layer was saved as it was then. */
    public synchronized void markSaved(LayerMark mark) {
        history.markSaved(mark);
    }

    /** How many prims undo would bring back; 0 for a change with effects beyond its layers. */
    public int undoSize() {
        return history.undoSize();
    }

    /** How many prims redo would bring back; 0 for a change with effects beyond its layers. */
    public int redoSize() {
        return history.redoSize();
    }
}
