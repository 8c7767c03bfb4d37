package pantry.testing.faults;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import pantry.base.AtomicFiles;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.base.Sha256;
import pantry.base.math.Matrix4;
import pantry.exchange.ModelWriters;
import pantry.exchange.usd.MeshCache;
import pantry.intake.Intake;
import pantry.intake.Neighbours;
import pantry.library.Archive;
import pantry.library.Asset;
import pantry.library.AssetMerge;
import pantry.library.Library;
import pantry.library.Problem;
import pantry.library.Transfers;
import pantry.library.VersionStatus;
import pantry.mesh.Shapes;
import pantry.scene.Scene;
import pantry.testing.Workshop;
import pantry.usd.compose.LayerCache;
import pantry.usd.compose.Stage;
import pantry.usd.file.UsdPackager;
import pantry.usd.schema.TransformComponents;

/**
 * Each operation is stopped at each of its changes of the file system, by a kill and by a full disk: afterwards every
 * version that was there is whole, the library verifies, and each file is the old one or the new one.
 *
 * <p>The suite tries a sample of the changes; {@code -Dpantry.every-point=true} tries all, and prints how many there were.
 */
class EveryChangeTest {
    private static final boolean EVERY = Boolean.getBoolean("pantry.every-point");
    private static final int SAMPLE = 12;

    @TempDir
    static Path folder;

    private static Path pattern;
    private static Workshop workshop;
    private static Path arrival;

    /** Something that is done in a library. */
    interface Operation {
        void in(Library library, Path root) throws IOException;
    }

    @BeforeAll
    static void prepare() throws IOException {
        workshop = new Workshop(Files.createDirectory(folder.resolve("workshop")));
        Asset mast = workshop.block("Mast", "Masts", 9);
        workshop.prefab("Pair", "Groups", mast);
        workshop.block("Crate", "Boxes", 1);
        Asset old = workshop.block("Old crate", "Boxes", 1);
        workshop.library().trash().discard(old);
        workshop.library().goBack(mast, "v001", "", Progress.NONE);
        pattern = workshop.library().root();
        arrival = folder.resolve("arrival.obj");
        ModelWriters.write(Workshop.model("Drum", Shapes.block(1, 1, 1)), arrival);
    }

    @AfterAll
    static void close() {
        workshop.close();
    }

    static Stream<String> operations() {
        return all().keySet().stream();
    }

    private static Map<String, Operation> all() {
        Map<String, Operation> all = new LinkedHashMap<>();
        all.put("shelve", (library, root) -> {
            var read = workshop.readers().read(arrival, Progress.NONE);
            workshop.intake().shelve(read, Intake.suggested(read, "Drums", Neighbours.NONE), library, Progress.NONE);
        });
        all.put("publish", (library, root) -> library.goBack(library.find("Mast"), "v001", "again", Progress.NONE));
        all.put(
                "edit a card",
                (library, root) -> library.edit(
                        List.of(library.find("Mast")),
                        card -> card.tagged("tall").withName("Tall mast"),
                        Progress.NONE));
        all.put("retire", (library, root) -> library.setStatus(library.find("Mast"), "v002", VersionStatus.RETIRED));
        all.put("make ready", (library, root) -> library.setStatus(library.find("Mast"), "v001", VersionStatus.READY));
        all.put("move", (library, root) -> library.places().move(library.find("Mast"), "Site/Masts"));
        all.put("move a shelf", (library, root) -> library.places().move("Masts", "Site/Masts", Progress.NONE));
        all.put("make a shelf", (library, root) -> library.places().make("Site/North"));
        all.put("discard", (library, root) -> library.trash().discard(library.find("Crate")));
        all.put("restore", (library, root) -> library.trash()
                .restore(library.trash().items().getFirst()));
        all.put("delete for good", (library, root) -> library.trash()
                .delete(library.trash().items()));
        all.put("reserve and release", (library, root) -> {
            library.reservations().reserve(library.find("Mast"));
            library.reservations().release(library.find("Mast"));
        });
        all.put("copy", (library, root) -> new Transfers(library, library)
                .copy(library.find("Pair"), "Copies", Progress.NONE));
        all.put("merge", (library, root) -> new AssetMerge(library)
                .merge(library.find("Mast"), library.find("Crate"), Matrix4.IDENTITY));
        all.put("merge turned", (library, root) -> new AssetMerge(library)
                .merge(library.find("Crate"), library.find("Mast"), Matrix4.rotation(1, 90)));
        all.put("archive a version", (library, root) -> new Archive(library, archive(root))
                .putVersion(library.find("Mast"), "v001", Progress.NONE));
        return all;
    }

    private static Path archiveOf(Path root) {
        return root.resolveSibling(root.getFileName() + " archive");
    }

    /** An archive beside a library, which does not fail. */
    private static Library archive(Path root) {
        Path place = archiveOf(root);
        return Library.isLibrary(place) ? open(place) : Library.create(place, "Archive", "keeper", Clock.systemUTC());
    }

    /** What must be there before and after: each version with what it holds, by the asset's id. */
    private static Map<String, String> versions(Library library) throws IOException {
        Map<String, String> versions = new LinkedHashMap<>();
        List<Asset> assets = new ArrayList<>(library.assets());
        for (Asset asset : assets) {
            for (String version : asset.versions()) {
                versions.put(
                        asset.card().id() + " " + version,
                        Sha256.of(asset.folder().resolve(version).resolve("manifest-sha256.txt")));
            }
        }
        return versions;
    }

    private static Path copy(String name) throws IOException {
        Path copy = folder.resolve(name.replace(' ', '-'));
        AtomicFiles.deleteTree(copy);
        AtomicFiles.deleteTree(archiveOf(copy));
        try (Stream<Path> files = Files.walk(pattern)) {
            for (Path file : files.toList()) {
                Path target = copy.resolve(pattern.relativize(file).toString());
                if (Files.isDirectory(file)) {
                    Files.createDirectories(target);
                } else {
                    Files.copy(file, target);
                }
            }
        }
        return copy;
    }

    private static Library open(Path root) {
        return Library.open(root, "survivor", Clock.systemUTC());
    }

    /** The numbers of the changes that are tried. */
    private static Set<Long> tried(long all) {
        Set<Long> tried = new TreeSet<>();
        for (long i = 0; i < (EVERY ? all : Math.min(all, SAMPLE)); i++) {
            tried.add(EVERY ? i + 1 : 1 + i * (all - 1) / Math.max(1, Math.min(all, SAMPLE) - 1));
        }
        return tried;
    }

    @ParameterizedTest
    @MethodSource("operations")
    void whereverAnOperationIsStoppedNothingIsLost(String name) throws IOException {
        Operation operation = all().get(name);
        Faults faults = new Faults();
        Path counted = copy(name);
        Library library = Library.open(faults.on(counted), "victim", Clock.systemUTC());
        faults.failAt(Long.MAX_VALUE, Faults.Kind.KILL);
        operation.in(library, counted);
        long changes = faults.changes();
        assertThat(changes).isPositive();
        for (Faults.Kind kind : Faults.Kind.values()) {
            for (long at : tried(changes)) {
                stopped(name, operation, kind, at);
            }
        }
        if (EVERY) {
            System.out.printf("EVERY %-22s %4d changes, each stopped twice%n", name, changes);
        }
    }

    private static void stopped(String name, Operation operation, Faults.Kind kind, long at) throws IOException {
        String where = name + ", " + kind + " at change " + at;
        Path root = copy(name);
        Map<String, String> before = versions(open(root));
        Faults faults = new Faults();
        Library library = Library.open(faults.on(root), "victim", Clock.systemUTC());
        faults.failAt(at, kind);
        try {
            operation.in(library, root);
        } catch (Faults.Killed | PantryException e) {
            assertThat(faults.failed()).as(where + ": " + e).isTrue();
        }
        faults.end();
        Library after = open(root);
        List<Problem> problems = after.verify(Progress.NONE).problems();
        assertThat(problems).as(where).isEmpty();
        Map<String, String> there = versions(after);
        if (Library.isLibrary(archiveOf(root))) {
            assertThat(open(archiveOf(root)).verify(Progress.NONE).problems())
                    .as(where)
                    .isEmpty();
            there.putAll(versions(open(archiveOf(root))));
        }
        after.trash().items().forEach(item -> before.keySet()
                .removeIf(key -> !item.id().isEmpty() && key.startsWith(item.id())));
        assertThat(there).as(where).containsAllEntriesOf(before);
        for (Asset asset : after.assets()) {
            if (Files.exists(asset.readyLayer())) {
                LayerCache layers = new LayerCache();
                assertThat(Stage.open(layers.open(asset.readyLayer()), layers).problems())
                        .as(where)
                        .isEmpty();
            }
        }
    }

    private static Scene yard(Path file) {
        Scene scene = Files.exists(file)
                ? Scene.open(file, new LayerCache(), new MeshCache())
                : Scene.create(file, new LayerCache(), new MeshCache());
        return scene;
    }

    @Test
    void aSceneThatIsBeingSavedIsTheOldOneOrTheNewOne() throws IOException {
        Path yard = Files.createDirectory(folder.resolve("scenes"));
        Asset mast = workshop.library().find("Mast");
        Path file = yard.resolve("yard.usda");
        Scene scene = yard(file);
        scene.placements().place(mast, Optional.empty(), "Mast", TransformComponents.ORIGIN, Optional.empty());
        scene.save();
        String old = Files.readString(file);
        Faults faults = new Faults();
        Scene through = yard(faults.on(file));
        through.placements().place(mast, Optional.empty(), "Mast", TransformComponents.ORIGIN, Optional.empty());
        through.save();
        String fresh = Files.readString(file);
        assertThat(fresh).isNotEqualTo(old);
        for (Faults.Kind kind : Faults.Kind.values()) {
            for (long at = 1; at <= 40; at++) {
                Files.writeString(file, old);
                Scene open = yard(faults.on(file));
                open.placements().place(mast, Optional.empty(), "Mast", TransformComponents.ORIGIN, Optional.empty());
                faults.failAt(at, kind);
                try {
                    open.save();
                } catch (Faults.Killed | PantryException e) {
                    assertThat(faults.failed()).isTrue();
                }
                faults.end();
                assertThat(Files.readString(file)).as(kind + " at change " + at).isIn(old, fresh);
                assertThat(yard(file).stage().problems()).isEmpty();
            }
        }
    }

    @Test
    void aPackedFolderIsThereWholeOrNotAtAll() throws IOException {
        Path entry = workshop.library().find("Mast").entryLayer("v001");
        LayerCache layers = new LayerCache();
        Path whole = folder.resolve("whole");
        int files = UsdPackager.writeFolder(layers.open(entry), layers, whole);
        Faults faults = new Faults();
        for (Faults.Kind kind : Faults.Kind.values()) {
            for (long at = 1; at <= 30; at++) {
                Path target = folder.resolve("packed-" + kind + at);
                faults.failAt(at, kind);
                try {
                    UsdPackager.writeFolder(layers.open(entry), layers, faults.on(target));
                } catch (Faults.Killed | PantryException e) {
                    assertThat(faults.failed()).isTrue();
                }
                faults.end();
                if (Files.exists(target)) {
                    try (Stream<Path> inside = Files.list(target)) {
                        assertThat(inside.count()).isEqualTo(files);
                    }
                }
            }
        }
    }
}
