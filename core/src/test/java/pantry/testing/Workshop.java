package pantry.testing;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import pantry.base.FileGate;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.FileReaders;
import pantry.exchange.format.Imported;
import pantry.exchange.usd.MeshCache;
import pantry.exchange.worker.ForeignReader;
import pantry.exchange.worker.WorkerLimits;
import pantry.intake.Intake;
import pantry.intake.Neighbours;
import pantry.intake.Slip;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.library.Library;
import pantry.mesh.Mesh;
import pantry.mesh.Shapes;
import pantry.model.Axis;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.Model;
import pantry.render.RenderCache;
import pantry.scene.Prefab;
import pantry.scene.Scene;
import pantry.usd.SdfPath;
import pantry.usd.compose.LayerCache;
import pantry.usd.schema.TransformComponents;

/** A library, a worker and caches in a temporary folder. */
public final class Workshop implements AutoCloseable {
    public static final Material RED = Material.plain("Red", Colour.ofDisplay(0xB23A2E), 0, 0.5);

    private final Path folder;
    private final ForeignReader foreign;
    private final FileReaders readers;
    private final Intake intake;
    private final Library library;
    private final LayerCache layers = new LayerCache();
    private final MeshCache meshes = new MeshCache();

    public Workshop(Path folder) {
        this.folder = folder;
        foreign = new ForeignReader(new WorkerLimits(Duration.ofSeconds(60), 2L << 30), folder.resolve("scratch"));
        readers = new FileReaders(foreign, file -> FileGate.beside(file).and(List.of(folder)));
        intake = new Intake(readers, new RenderCache());
        library = Library.create(folder.resolve("library"), "Test shelves", "tester", Clock.systemUTC());
    }

    public ForeignReader foreign() {
        return foreign;
    }

    public FileReaders readers() {
        return readers;
    }

    public Intake intake() {
        return intake;
    }

    public Library library() {
        return library;
    }

    public static Slip slip(String name, String shelf) {
        return Slip.plain(name, AssetKind.MODEL, shelf, 1, Axis.Y).withCredit("CC0-1.0", "");
    }

    /** A model of one red mesh. */
    public static Model model(String name, Mesh mesh) {
        return new Model(
                name,
                List.of(Model.Node.of("Body", Matrix4.IDENTITY, List.of(new Model.Part(mesh, RED)), List.of())),
                Model.Extras.NONE);
    }

    /** Shelves a block of the given height. */
    public Asset block(String name, String shelf, double height) {
        return intake.shelve(model(name, Shapes.block(1, height, 1)), slip(name, shelf), library, Progress.NONE)
                .asset();
    }

    /** Shelves a prefab that is one placement of an asset. */
    public Asset prefab(String name, String shelf, Asset part) {
        Path file = folder.resolve("scratch-" + name + ".usda");
        Scene scene = newScene(file);
        scene.placements()
                .place(part, Optional.empty(), part.card().name(), TransformComponents.ORIGIN, Optional.empty());
        return new Prefab(scene, layers, List.of(scene.root()), library, new RenderCache())
                .shelve(name, AssetKind.PREFAB, shelf, List.of(), Progress.NONE)
                .asset();
    }

    /** Shelves a file as it is suggested, its numbers taken for metres. */
    public Asset received(Path file, String shelf) {
        Imported read = readers().read(file, Progress.NONE);
        Slip slip = Intake.suggested(read, shelf, Neighbours.NONE).withFactor(1);
        return intake().shelve(read, slip, library, Progress.NONE).published().asset();
    }

    /** Places an asset that follows its ready version, so far along x, metres. */
    public static SdfPath stand(Scene scene, Asset asset, double x) {
        return scene.placements()
                .place(
                        asset,
                        Optional.empty(),
                        asset.card().name(),
                        TransformComponents.ORIGIN.withMove(new Vec3(x, 0, 0)),
                        Optional.empty());
    }

    /** The layers that scenes are opened with. */
    /** The first version of an asset as a scene shows it that selects a variant. */
    public Model chosen(Asset asset, String set, String variant) throws IOException {
        Path scene = Files.writeString(
                folder.resolve("chosen.usda"),
                "#usda 1.0\n(defaultPrim = \"B\" metersPerUnit = 1)\ndef \"B\" (references = @"
                        + asset.entryLayer("v001") + "@ variants = { string " + set + " = \"" + variant + "\" }) {}\n");
        return readers.read(scene, Progress.NONE).model();
    }

    public LayerCache layers() {
        return layers;
    }

    public Scene newScene(Path file) {
        return Scene.create(file, layers, meshes);
    }

    public Scene openScene(Path file) {
        return Scene.open(file, layers, meshes);
    }

    @Override
    public void close() {
        foreign.close();
    }
}
