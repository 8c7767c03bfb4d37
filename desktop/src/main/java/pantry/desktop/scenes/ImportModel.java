package pantry.desktop.scenes;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Consumer;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyIntegerProperty;
import javafx.beans.property.ReadOnlyIntegerWrapper;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.SimpleObjectProperty;
import pantry.base.Names;
import pantry.base.PantryException;
import pantry.base.math.Box3;
import pantry.base.math.Vec3;
import pantry.desktop.session.Session;
import pantry.desktop.session.Terms;
import pantry.intake.LostTextures;
import pantry.model.Model;
import pantry.model.Weight;
import pantry.scene.ConflictSides;
import pantry.scene.ImportSource;
import pantry.scene.Scene;
import pantry.scene.SceneImport;
import pantry.usd.SdfPath;

/** What is chosen of another file to be brought into the scene, and what is decided for it. */
public final class ImportModel {
    private final ScenesModel scenes;
    private final Session session;
    private final ReadOnlyObjectWrapper<Optional<ImportSource>> source = new ReadOnlyObjectWrapper<>(Optional.empty());
    private final ObjectProperty<Set<SdfPath>> chosen = new SimpleObjectProperty<>(Set.of());
    private final Map<SceneImport.Conflict, SceneImport.Decision> decisions = new LinkedHashMap<>();
    private final ReadOnlyObjectWrapper<Optional<Consumer<Vec3>>> asking =
            new ReadOnlyObjectWrapper<>(Optional.empty());
    private List<ImportSource.Importable> importables = List.of();
    private ImportSource.Links links = ImportSource.Links.KEPT;

    /** How the things are ordered. */
    public enum Order {
        KIND("by kind"),
        LINKS("by links"),
        GROUP("by group or drawer");

        private final String words;

        Order(String words) {
            this.words = words;
        }

        @Override
        public String toString() {
            return words;
        }
    }

    /** Where what is brought in comes to stand. */
    public enum Target {
        AS_IT_STANDS("where it stands there"),
        ORIGIN("with its middle at the origin"),
        LOOKED_AT("with its middle where the view looks"),
        PICKED("standing on a point to be clicked"),
        SELECTED("with its middle on what is selected");

        private final String words;

        Target(String words) {
            this.words = words;
        }

        @Override
        public String toString() {
            return words;
        }
    }

    private final BooleanProperty allowMissing = new SimpleBooleanProperty();
    private final ReadOnlyIntegerWrapper searches = new ReadOnlyIntegerWrapper();

    ImportModel(ScenesModel scenes) {
        this.scenes = scenes;
        this.session = scenes.session();
    }

    public ReadOnlyObjectProperty<Optional<ImportSource>> sourceProperty() {
        return source.getReadOnlyProperty();
    }

    public ObjectProperty<Set<SdfPath>> chosenProperty() {
        return chosen;
    }

    public List<ImportSource.Importable> importables() {
        return importables;
    }

    /** Reads a file in the background; all but the environment is chosen of it at first. */
    public void open(Path file) {
        open(file, ImportSource.Links.KEPT);
    }

    /** As above, and says what becomes of the placements in it. */
    public void open(Path file, ImportSource.Links kept) {
        session.run(
                "reading " + file.getFileName(),
                progress -> {
                    ImportSource read = session.workbench().source(file, kept, progress);
                    return new Read(read, read.importables(), kept);
                },
                this::opened);
    }

    /** A file that was read, and what it holds. */
    private record Read(ImportSource source, List<ImportSource.Importable> importables, ImportSource.Links links) {}

    /** Whether placements stay uses of their assets. */
    public ImportSource.Links links() {
        return links;
    }

    private void opened(Read read) {
        importables = read.importables();
        links = read.links();
        decisions.clear();
        Set<SdfPath> all = new LinkedHashSet<>();
        importables.stream()
                .filter(piece ->
                        piece.kind() != ImportSource.Kind.ENVIRONMENT && piece.kind() != ImportSource.Kind.MATERIAL)
                .forEach(piece -> all.add(piece.path()));
        allowMissing.set(false);
        source.set(Optional.of(read.source()));
        chosen.set(all);
    }

    public void close() {
        askNoMore();
        source.set(Optional.empty());
        importables = List.of();
        chosen.set(Set.of());
        session.weightAfterProperty().set(Optional.empty());
    }

    /** Ticks or unticks things. */
    public void choose(List<SdfPath> paths, boolean wanted) {
        Set<SdfPath> now = new LinkedHashSet<>(chosen.get());
        if (wanted) {
            now.addAll(paths);
        } else {
            now.removeAll(Set.copyOf(paths));
        }
        chosen.set(now);
    }

    /** The things in sets with labels, in an order; a thing of several drawers is in each. */
    public Map<String, List<ImportSource.Importable>> ordered(Order order) {
        Map<String, List<ImportSource.Importable>> sets = order == Order.KIND ? new LinkedHashMap<>() : new TreeMap<>();
        switch (order) {
            case KIND -> {
                for (ImportSource.Kind kind : ImportSource.Kind.values()) {
                    importables.stream().filter(piece -> piece.kind() == kind).forEach(piece -> sets.computeIfAbsent(
                                    kind.words(), key -> new ArrayList<>())
                            .add(piece));
                }
            }
            case LINKS -> linked().forEach(set -> sets.put(label(set), set));
            case GROUP -> {
                Map<String, List<SdfPath>> drawers = source.get()
                        .map(read -> read.drawers(Set.of(read.root())))
                        .orElse(Map.of());
                for (ImportSource.Importable piece : importables) {
                    String group = piece.group().isEmpty() ? "no group" : piece.group();
                    sets.computeIfAbsent(group, key -> new ArrayList<>()).add(piece);
                    drawers.forEach((drawer, members) -> {
                        if (members.stream().anyMatch(member -> piece.path().startsWith(member))) {
                            sets.computeIfAbsent("drawer " + drawer, key -> new ArrayList<>())
                                    .add(piece);
                        }
                    });
                }
            }
        }
        return sets;
    }

    private static String label(List<ImportSource.Importable> set) {
        return set.size() == 1
                ? "alone: " + set.getFirst().name()
                : set.size() + " linked: "
                        + String.join(
                                ", ",
                                set.stream()
                                        .limit(3)
                                        .map(ImportSource.Importable::name)
                                        .toList())
                        + (set.size() > 3 ? " …" : "");
    }

    /** Things that are linked with each other, directly or through others. */
    private List<List<ImportSource.Importable>> linked() {
        Map<SdfPath, List<ImportSource.Importable>> below = new HashMap<>();
        for (ImportSource.Importable piece : importables) {
            for (SdfPath at = piece.path(); !at.equals(SdfPath.ROOT); at = at.parent()) {
                below.computeIfAbsent(at, key -> new ArrayList<>()).add(piece);
            }
        }
        Set<SdfPath> paths = new HashSet<>();
        importables.forEach(piece -> paths.add(piece.path()));
        Map<SdfPath, Set<ImportSource.Importable>> ties = new HashMap<>();
        for (ImportSource.Importable piece : importables) {
            for (SdfPath link : piece.links()) {
                for (ImportSource.Importable other : owners(link, paths, below)) {
                    ties.computeIfAbsent(piece.path(), key -> new LinkedHashSet<>())
                            .add(other);
                    ties.computeIfAbsent(other.path(), key -> new LinkedHashSet<>())
                            .add(piece);
                }
            }
        }
        List<List<ImportSource.Importable>> sets = new ArrayList<>();
        Set<SdfPath> seen = new HashSet<>();
        for (ImportSource.Importable first : importables) {
            if (seen.add(first.path())) {
                List<ImportSource.Importable> set = new ArrayList<>(List.of(first));
                for (int i = 0; i < set.size(); i++) {
                    ties.getOrDefault(set.get(i).path(), Set.of()).stream()
                            .filter(other -> seen.add(other.path()))
                            .forEach(set::add);
                }
                sets.add(set);
            }
        }
        return sets;
    }

    /** The thing that a path is of or in, or else those that are in it. */
    private static List<ImportSource.Importable> owners(
            SdfPath path, Set<SdfPath> things, Map<SdfPath, List<ImportSource.Importable>> below) {
        for (SdfPath at = path.prim(); !at.equals(SdfPath.ROOT); at = at.parent()) {
            if (things.contains(at)) {
                return below.get(at);
            }
        }
        return below.getOrDefault(path.prim(), List.of());
    }

    /**
     * Several uses of one asset, or one thing of another kind.
     *
     * @param pieces one or more, of which one stands for all
     */
    public record Stack(List<ImportSource.Importable> pieces) {
        public Stack {
            pieces = List.copyOf(pieces);
        }

        /** The one that stands for all of them. */
        public ImportSource.Importable first() {
            return pieces.getFirst();
        }

        List<SdfPath> paths() {
            return pieces.stream().map(ImportSource.Importable::path).toList();
        }
    }

    /** Things with all uses of one asset together, in the order of the first of each. */
    public List<Stack> stacked(List<ImportSource.Importable> things) {
        Map<Object, List<ImportSource.Importable>> stacks = new LinkedHashMap<>();
        for (ImportSource.Importable piece : things) {
            Object key = source.get()
                    .flatMap(read -> read.refersTo(piece.path()))
                    .<Object>map(file -> file)
                    .orElse(piece.path());
            stacks.computeIfAbsent(key, each -> new ArrayList<>()).add(piece);
        }
        return stacks.values().stream().map(Stack::new).toList();
    }

    /** Only the things whose names, or groups' names, hold all words of a text. */
    static List<ImportSource.Importable> named(List<ImportSource.Importable> things, String text) {
        Terms words = Terms.ofWords(text);
        return things.stream()
                .filter(piece -> words.isNamed(piece.name() + " " + piece.group()))
                .toList();
    }

    /** A name for what comes of it. */
    public String usualName() {
        return source.get()
                .map(read -> Names.title(Names.stem(read.file().getFileName().toString())))
                .orElse("");
    }

    /** What comes along because what is chosen needs it. */
    public List<ImportSource.Need> needs() {
        return source.get()
                .filter(read -> !chosen.get().isEmpty())
                .map(read -> read.needs(chosen.get()))
                .orElse(List.of());
    }

    /** The textures of what is chosen and of what comes along that are not found. */
    public List<String> missing() {
        return source.get()
                .filter(read -> !chosen.get().isEmpty())
                .map(read -> read.missing(chosen.get()))
                .orElse(List.of());
    }

    /** Whether things may be brought in without textures that are not found. */
    public BooleanProperty allowMissingProperty() {
        return allowMissing;
    }

    /** Looks for missing textures in a folder and below it. */
    public void findTextures(Path folder) {
        source.get()
                .ifPresent(read -> session.run(
                        "looking for textures", progress -> LostTextures.in(List.of(folder), progress), found -> {
                            read.lookIn(found);
                            searches.set(searches.get() + 1);
                        }));
    }

    /** Goes up when textures were looked for. */
    public ReadOnlyIntegerProperty searchesProperty() {
        return searches.getReadOnlyProperty();
    }

    /** The names that both have, for what is chosen; those that say the same need no decision. */
    public List<SceneImport.Conflict> clashes(String name) {
        Optional<Scene> scene = scenes.sceneProperty().get();
        return scene.isEmpty() || source.get().isEmpty() || chosen.get().isEmpty() || name.isBlank()
                ? List.of()
                : SceneImport.clashes(scene.get(), source.get().get(), chosen.get(), name);
    }

    /** Both sides of a name that both have. */
    ConflictSides sides(SceneImport.Conflict clash) {
        return ConflictSides.of(
                scenes.sceneProperty().get().orElseThrow(), source.get().orElseThrow(), chosen.get(), clash);
    }

    /** What can be seen of the scene's side: of a group, all that stands in it. */
    Optional<Model> shownOf(SceneImport.Conflict clash, ConflictSides sides) {
        if (clash.what() != SceneImport.ConflictKind.GROUP) {
            return sides.ownShown();
        }
        return Optional.of(scenes.display().drawnModel().without(node -> {
            SdfPath path = SdfPath.of(node.path());
            return !path.startsWith(clash.own()) && !clash.own().startsWith(path);
        }));
    }

    /** What can be seen of the incoming side; takes a while for a group. */
    Optional<Model> shownIncoming(SceneImport.Conflict clash, ConflictSides sides) {
        return clash.what() == SceneImport.ConflictKind.GROUP
                ? source.get().map(read -> read.model(chosen.get()))
                : sides.incomingShown();
    }

    public SceneImport.Decision decision(SceneImport.Conflict clash) {
        return decisions.getOrDefault(
                clash,
                clash.what() == SceneImport.ConflictKind.SETTING
                        ? SceneImport.Decision.SCENE
                        : SceneImport.Decision.BOTH);
    }

    public void decide(SceneImport.Conflict clash, SceneImport.Decision decision) {
        decisions.put(clash, decision);
    }

    /** Shows on the scale what the scene would weigh then. */
    public void weigh() {
        Weight now = scenes.shownProperty().get().weight();
        Set<Path> known = new HashSet<>();
        scenes.placements().forEach(placement -> known.add(placement.layer()));
        long stored = 0;
        long triangles = 0;
        int placements = 0;
        for (ImportSource.Importable piece : importables) {
            if (chosen.get().contains(piece.path())) {
                Optional<Path> shows = source.get().flatMap(read -> read.refersTo(piece.path()));
                triangles += piece.triangles();
                stored += shows.isEmpty() || known.add(shows.get()) ? piece.triangles() : 0;
                placements += shows.isPresent() ? 1 : 0;
            }
        }
        session.weightAfterProperty()
                .set(Optional.of(new Weight(
                        now.trianglesStored() + stored,
                        now.trianglesDrawn() + triangles,
                        now.placements() + placements,
                        now.objects() + chosen.get().size(),
                        now.textureBytes(),
                        now.fileBytes())));
    }

    /** What waits for a point to be clicked in the view; empty where nothing does. */
    public ReadOnlyObjectProperty<Optional<Consumer<Vec3>>> askingProperty() {
        return asking.getReadOnlyProperty();
    }

    /** How what is chosen comes into the scene. */
    public enum Way {
        COPIED,
        /** By a live link, to all of the file or to the one thing that is chosen. */
        REFERRED
    }

    /** Asks for the point on which what is chosen is to stand, and brings it there. */
    public void bringToPoint(Way way, String name, String drawer) {
        if (!chosen.get().isEmpty()) {
            asking.set(Optional.of(point -> {
                asking.set(Optional.empty());
                bring(way, name, drawer, Target.PICKED, point);
            }));
        }
    }

    /** Asks for no point any more; what is chosen stays so. */
    public void askNoMore() {
        asking.set(Optional.empty());
    }

    /**
     * Brings what is chosen into the scene.
     *
     * @param drawer that it is put into; blank for none
     * @param point where the view looks, or what was clicked
     */
    public void bring(Way way, String name, String drawer, Target target, Vec3 point) {
        Optional<ImportSource> read = source.get();
        if (read.isEmpty() || chosen.get().isEmpty()) {
            return;
        }
        List<String> missing = way == Way.REFERRED ? List.of() : missing();
        if (!missing.isEmpty() && !allowMissing.get()) {
            session.wrong(new PantryException(
                    read.get().file(),
                    "lacks " + (missing.size() == 1 ? "a texture" : missing.size() + " textures") + ": "
                            + String.join(", ", missing) + "; find them, or allow bringing in without them"));
            return;
        }
        Set<SdfPath> before = scenes.selectionProperty().get();
        boolean nowhere = target == Target.SELECTED
                && scenes.sceneProperty()
                        .get()
                        .filter(open -> middle(open, before, target, point).isEmpty())
                        .isPresent();
        if (nowhere) {
            // Nothing that is selected stands anywhere: where it is to stand is asked for.
            bringToPoint(way, name, drawer);
            return;
        }
        Map<SceneImport.Conflict, SceneImport.Decision> decided = new LinkedHashMap<>();
        clashes(name).forEach(clash -> decided.put(clash, decision(clash)));
        ImportRequest request = new ImportRequest(
                read.get(),
                List.copyOf(importables),
                Set.copyOf(chosen.get()),
                way == Way.REFERRED,
                new ImportRequest.Into(name, drawer, decided));
        scenes.keeping().autosave();
        // Images are copied beside the scene. What was chosen stays so where it is refused.
        scenes.changeApart(
                "bringing in " + name,
                (fork, progress) -> {
                    Optional<Vec3> to = middle(fork, before, target, point);
                    return List.of(request.carryOut(fork, to, target == Target.PICKED));
                },
                this::close);
    }

    /** The one thing that would be referred to; empty where it would be the whole file. */
    public Optional<SdfPath> part() {
        return ImportRequest.part(importables, chosen.get());
    }

    private static Optional<Vec3> middle(Scene open, Set<SdfPath> selected, Target target, Vec3 point) {
        return switch (target) {
            case AS_IT_STANDS -> Optional.empty();
            case ORIGIN -> Optional.of(Vec3.ZERO);
            case LOOKED_AT, PICKED -> Optional.of(point);
            case SELECTED ->
                selected.stream()
                        .map(path -> open.arranging().box(path))
                        .reduce(Box3::union)
                        .filter(box -> !box.isEmpty())
                        .map(Box3::centre);
        };
    }
}
