package pantry.desktop.scenes;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.SimpleObjectProperty;
import pantry.base.math.Matrix4;
import pantry.scene.Anchors;
import pantry.scene.Drawers;
import pantry.scene.Occurrence;
import pantry.scene.Placement;
import pantry.scene.PlacementParts;
import pantry.scene.Scene;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;
import pantry.usd.Specifier;
import pantry.usd.schema.TransformComponents;

/** What is selected in the open scene, in the order in which it was chosen, and through which use it was reached. */
public final class SceneSelection {
    private final Supplier<Optional<Scene>> scene;
    private final ObjectProperty<Set<SdfPath>> paths = new SimpleObjectProperty<>(Set.of());
    private final Map<SdfPath, List<SdfPath>> through = new HashMap<>();
    private final ReadOnlyObjectWrapper<Optional<SdfPath>> inside = new ReadOnlyObjectWrapper<>(Optional.empty());

    /**
     * The one object that is selected.
     *
     * @param usual whether its place is told by the usual move, turn and scale
     */
    public record Own(
            SdfPath path,
            TransformComponents placing,
            boolean usual,
            Optional<Placement> placement,
            Optional<Anchors.Mark> mark) {}

    /** @param scene the one that is open; empty where none is */
    SceneSelection(Supplier<Optional<Scene>> scene) {
        this.scene = scene;
    }

    /** The selected objects, the one that was chosen last at the end. */
    public ObjectProperty<Set<SdfPath>> property() {
        return paths;
    }

    public boolean isEmpty() {
        return paths.get().isEmpty();
    }

    List<SdfPath> all() {
        return List.copyOf(paths.get());
    }

    void set(List<SdfPath> chosen) {
        paths.set(new LinkedHashSet<>(chosen));
    }

    /** The only selected path; empty where none or several are selected. */
    private Optional<SdfPath> only() {
        return paths.get().size() == 1 ? Optional.of(paths.get().iterator().next()) : Optional.empty();
    }

    /** The one selected placement; empty where none or several are. */
    public Optional<Placement> single() {
        return only().flatMap(
                        path -> scene.get().flatMap(open -> open.placements().at(path)));
    }

    /** The one selected object, a group or an anchor among them; empty where none or several are. */
    public Optional<Own> one() {
        return only().flatMap(path -> scene.get()
                .flatMap(open -> part(path).map(SceneSelection::own).or(() -> open.spec(path)
                        .map(prim -> new Own(
                                path,
                                TransformComponents.read(prim),
                                TransformComponents.isUsual(prim),
                                open.placements().at(path),
                                open.anchors().mark(path))))));
    }

    private static Own own(PlacementParts.Part part) {
        return new Own(
                part.path(),
                part.placing().orElse(TransformComponents.ORIGIN),
                part.placing().isPresent(),
                Optional.empty(),
                Optional.empty());
    }

    /** What a path is of a placement's insides; empty where it is of the scene's own. */
    public Optional<PlacementParts.Part> part(SdfPath path) {
        return scene.get().flatMap(open -> open.parts().at(path));
    }

    /** The one selected part of a placement; empty where none or several are. */
    public Optional<PlacementParts.Part> onePart() {
        return only().flatMap(this::part);
    }

    /** Whether parts of placements are selected, rather than what the scene itself holds. */
    public boolean isOfParts() {
        return !isEmpty()
                && scene.get()
                        .flatMap(open -> open.parts().placementOf(all().getFirst()))
                        .isPresent();
    }

    /** The group, use of a group, placement or part of one that is worked in; what is in it can be picked. */
    public ReadOnlyObjectProperty<Optional<SdfPath>> insideProperty() {
        return inside.getReadOnlyProperty();
    }

    /** What is worked in, and all that this is inside of, the outermost first. */
    public List<SdfPath> way() {
        List<SdfPath> way = new ArrayList<>();
        for (Optional<SdfPath> at = inside.get(); at.isPresent(); at = above(at.get())) {
            way.addFirst(at.get());
        }
        return way;
    }

    /** What something is inside of: of contents that are shared, the use through which they were reached. */
    private Optional<SdfPath> above(SdfPath path) {
        SdfPath parent = path.parent();
        Optional<Scene> open = scene.get();
        if (open.isEmpty()
                || parent.equals(SdfPath.ROOT)
                || parent.equals(open.get().root())) {
            return Optional.empty();
        }
        List<SdfPath> uses = through.getOrDefault(path, List.of());
        boolean shared = !uses.isEmpty()
                && open.get()
                        .instancing()
                        .contents(uses.getLast())
                        .filter(parent::equals)
                        .isPresent();
        return Optional.of(shared ? uses.getLast() : parent);
    }

    /** Whether there is something in an object that could be picked there. */
    public boolean canEnter(SdfPath path) {
        return scene.get().filter(open -> !contents(open, path).isEmpty()).isPresent();
    }

    /** What can be picked in an object: what hangs on a group or stands in one that is used, or a placement's parts. */
    private static List<SdfPath> contents(Scene open, SdfPath path) {
        if (open.placements().at(path).isPresent()
                || open.parts().placementOf(path).isPresent()) {
            return open.parts().below(path);
        }
        SdfPath at = open.instancing().contents(path).orElse(path);
        return open.childNames(at).stream().map(at::child).toList();
    }

    /**
     * Goes into a group, a use of one, a placement or a part of one; nothing where there is nothing in it. Where a part is
     * all that a placement or a part holds, into that.
     */
    public void enter(SdfPath path) {
        Optional<Scene> open = scene.get();
        if (open.isEmpty() || !canEnter(path)) {
            return;
        }
        SdfPath at = path;
        for (Optional<SdfPath> only = onlyPart(open.get(), at);
                only.isPresent() && canEnter(only.get());
                only = onlyPart(open.get(), at)) {
            at = only.get();
        }
        paths.set(Set.of());
        inside.set(Optional.of(at));
    }

    /** The one part that a placement or a part holds; empty where it holds several, or is neither. */
    private static Optional<SdfPath> onlyPart(Scene open, SdfPath path) {
        List<SdfPath> parts = contents(open, path);
        return parts.size() == 1 && open.parts().placementOf(parts.getFirst()).isPresent()
                ? Optional.of(parts.getFirst())
                : Optional.empty();
    }

    /** Goes out of what is worked in, which is selected then; nothing where one is in nothing. */
    public void leave() {
        Optional<Scene> open = scene.get();
        if (open.isEmpty() || inside.get().isEmpty()) {
            return;
        }
        SdfPath left = inside.get().get();
        Optional<SdfPath> outer = above(left);
        while (outer.filter(path -> onlyPart(open.get(), path).isPresent()).isPresent()) {
            left = outer.get();
            outer = above(left);
        }
        inside.set(outer);
        paths.set(Set.of(left));
    }

    /** Goes out so far that something is what is worked in; out of all where empty. */
    public void leaveTo(Optional<SdfPath> outer) {
        List<SdfPath> way = way();
        inside.set(outer.filter(way::contains));
        paths.set(Set.of());
    }

    /** Where what is worked in is drawn: within uses of groups, by the names of what is on the way there. */
    Optional<SdfPath> insideAsDrawn() {
        Optional<SdfPath> drawn = Optional.empty();
        for (SdfPath path : way()) {
            drawn = Optional.of(drawn.map(outer -> outer.child(path.name())).orElse(path));
        }
        return drawn;
    }

    /** The outermost of what is worked in that shares its insides, which are drawn apart meanwhile. */
    Optional<SdfPath> apart() {
        Optional<Scene> open = scene.get();
        return way().stream()
                .filter(path -> open.filter(now -> now.placements().at(path).isPresent()
                                || now.instancing().contents(path).isPresent())
                        .isPresent())
                .findFirst();
    }

    /**
     * What was drawn of that in which one works, as what can be picked there: the object or part right in it.
     *
     * @param drawn the path of what was drawn
     */
    Optional<SdfPath> within(SdfPath drawn) {
        Optional<SdfPath> outer = insideAsDrawn().filter(path -> drawn.startsWith(path) && !drawn.equals(path));
        return outer.flatMap(path -> scene.get().map(open -> {
            SdfPath in = inside.get().orElseThrow();
            Optional<SdfPath> shared = open.instancing().contents(in);
            SdfPath child = shared.orElse(in).child(drawn.names().get(path.depth()));
            List<SdfPath> uses = new ArrayList<>();
            way().stream()
                    .filter(each -> open.instancing().contents(each).isPresent())
                    .forEach(uses::add);
            if (!uses.isEmpty()) {
                reached(child, uses);
            }
            return child;
        }));
    }

    /** Selects all that can be picked where one works: the parts or objects right in it, or else all at the top. */
    public void selectAll() {
        scene.get().ifPresent(open -> set(level(open)));
    }

    /** What can be picked where one works. */
    private List<SdfPath> level(Scene open) {
        Optional<SdfPath> in = inside.get();
        List<SdfPath> found = contents(open, in.orElse(open.root())).stream()
                .filter(path -> part(path).isPresent()
                        || open.spec(path).filter(SceneSelection::isObject).isPresent())
                .toList();
        if (in.isPresent()) {
            found.forEach(path -> within(insideAsDrawn().orElseThrow().child(path.name())));
        }
        return found;
    }

    private static boolean isObject(PrimSpec prim) {
        return !prim.typeName().equals("Scope") && prim.specifier() == Specifier.DEF;
    }

    /** Selects the others where one works, rather than those that are selected. */
    public void selectOthers() {
        scene.get().ifPresent(open -> {
            Set<SdfPath> before = paths.get();
            set(level(open).stream().filter(path -> !before.contains(path)).toList());
        });
    }

    /** Selects all placements of the assets that the selected ones are of. */
    public void selectSameAsset() {
        scene.get().ifPresent(open -> {
            Set<Path> layers = new HashSet<>();
            paths.get().forEach(path -> open.placements().at(path).ifPresent(placed -> layers.add(placed.layer())));
            if (!layers.isEmpty()) {
                set(open.placements().all().stream()
                        .filter(placement -> layers.contains(placement.layer()))
                        .map(Placement::path)
                        .toList());
            }
        });
    }

    /** Selects all that is in the drawers that the selected objects are in. */
    public void selectSameDrawer() {
        scene.get().ifPresent(open -> {
            Set<SdfPath> found = new LinkedHashSet<>();
            for (Drawers.Drawer drawer : open.drawers().all()) {
                if (drawer.members().stream().anyMatch(paths.get()::contains)) {
                    found.addAll(drawer.members());
                }
            }
            if (!found.isEmpty()) {
                paths.set(found);
            }
        });
    }

    /** What was chosen last. */
    public Optional<SdfPath> lastChosen() {
        List<SdfPath> chosen = all();
        return chosen.isEmpty() ? Optional.empty() : Optional.of(chosen.getLast());
    }

    /** Of several that are selected, the one that was chosen last. */
    public Optional<SdfPath> lastOfSeveral() {
        List<SdfPath> chosen = all();
        return chosen.size() < 2 ? Optional.empty() : Optional.of(chosen.getLast());
    }

    public void selectChildren() {
        scene.get().ifPresent(open -> {
            Set<SdfPath> children = new LinkedHashSet<>();
            for (SdfPath path : paths.get()) {
                open.spec(path).ifPresent(prim -> prim.childNames().forEach(name -> children.add(path.child(name))));
            }
            if (!children.isEmpty()) {
                paths.set(children);
            }
        });
    }

    /** Selects what the selected objects hang on. */
    public void selectAbove() {
        scene.get().ifPresent(open -> {
            Set<SdfPath> above = new LinkedHashSet<>();
            paths.get().forEach(path -> above.add(path.parent()));
            above.removeIf(path -> !path.startsWith(open.root()) || path.equals(open.root()));
            if (!above.isEmpty()) {
                paths.set(above);
            }
        });
    }

    /** What is no longer there, such as in an alternate that was switched out, is not selected either. */
    void keepWhatIsIn(Scene open) {
        Set<SdfPath> there = paths.get().stream()
                .filter(path -> open.spec(path).isPresent() || part(path).isPresent())
                .collect(Collectors.toCollection(LinkedHashSet::new));
        if (there.size() < paths.get().size()) {
            paths.set(there);
        }
        if (inside.get().filter(path -> !canEnter(path)).isPresent()) {
            leaveTo(Optional.empty());
        }
    }

    /** Selects nothing, and forgets through which uses things were reached. */
    void clear() {
        through.clear();
        inside.set(Optional.empty());
        paths.set(Set.of());
    }

    /** The place at which an object is worked on: of shared contents, in the use through which it was chosen. */
    public Optional<Occurrence> occurrence(SdfPath path) {
        return scene.get().flatMap(open -> {
            // What is within shared contents, parts of placements too, stands where these are used.
            Optional<Matrix4> around = open.instancing().isShared(path)
                    ? Optional.empty()
                    : open.parts().parentSpace(path);
            if (around.isPresent()) {
                return Optional.of(new Occurrence(List.of(), path, around.get()));
            }
            List<Occurrence> all = open.instancing().occurrences(path);
            return all.stream()
                    .filter(each -> each.through().equals(through.get(path)))
                    .findFirst()
                    .or(() -> all.stream().findFirst());
        });
    }

    /** From the space in which a placement's own place is told to the scene's. */
    public Matrix4 parentSpace(SdfPath path) {
        return occurrence(path).map(Occurrence::parentSpace).orElse(Matrix4.IDENTITY);
    }

    /** Takes note of the uses through which something within shared contents was reached, the outermost first. */
    void reached(SdfPath path, List<SdfPath> uses) {
        through.put(path, List.copyOf(uses));
    }
}
