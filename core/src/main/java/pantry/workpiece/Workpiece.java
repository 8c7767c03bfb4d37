package pantry.workpiece;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.WeakHashMap;
import java.util.function.UnaryOperator;
import org.jspecify.annotations.Nullable;
import pantry.base.AtomicFiles;
import pantry.base.Names;
import pantry.base.Progress;
import pantry.base.Scratch;
import pantry.base.math.Matrix4;
import pantry.exchange.FileReaders;
import pantry.exchange.ModelWriters;
import pantry.exchange.format.FileKind;
import pantry.exchange.format.Imported;
import pantry.exchange.usd.MeshCache;
import pantry.exchange.usd.UsdModelReader;
import pantry.exchange.usd.UsdModelWriter;
import pantry.exchange.usd.UsdPhysicalMaterials;
import pantry.exchange.usd.UsdSkelReader;
import pantry.intake.Intake;
import pantry.intake.Neighbours;
import pantry.intake.Slip;
import pantry.library.Asset;
import pantry.library.Library;
import pantry.mesh.Mesh;
import pantry.mesh.MeshFaults;
import pantry.model.Axis;
import pantry.model.Model;
import pantry.model.Weight;
import pantry.usd.AssetLocation;
import pantry.usd.AssetPaths;
import pantry.usd.Layer;
import pantry.usd.SdfPath;
import pantry.usd.compose.LayerCache;
import pantry.usd.compose.Population;
import pantry.usd.compose.Stage;
import pantry.usd.edit.StageEditor;
import pantry.usd.file.LayerAssets;
import pantry.usd.file.LayerFiles;
import pantry.usd.file.UsdPackager;
import pantry.usd.schema.Bounds;

/**
 * A working copy: what is inspected and cleaned. The file or version that it was made of is never touched; the copy
 * becomes a new version, or a file of its own. To be used by one thread at a time.
 *
 * <p>Of a USD file it is the file's own layer, with all that is in it; of another format, the model written as USD in
 * metres; of an asset, the layer that has its objects. Every change can be undone.
 */
public final class Workpiece {
    /**
     * Where a workpiece stands in a library.
     *
     * @param version that it is a copy of
     */
    public record Shelved(Library library, Asset asset, String version) {}

    /**
     * How the figures of a file are understood.
     *
     * @param unit metres of one
     * @param up the axis that points up in the file
     */
    public record Reading(double unit, Axis up) {}

    /** What it is a copy of, and how that was understood where it does not say so itself. */
    private record Origin(Path source, Optional<Reading> reading, Optional<Shelved> shelved) {}

    private final Origin origin;
    private final StageEditor editor;
    private final LayerCache layers;
    private final MeshCache meshes;
    private final Model.Extras extras;
    private final Map<Mesh, MeshFaults> faults;
    private @Nullable Path scratch;

    private Workpiece(Origin origin, StageEditor editor, Sources sources, Model.Extras extras) {
        this.origin = origin;
        this.editor = editor;
        this.layers = sources.layersOf(origin.source());
        this.meshes = sources.meshes();
        this.extras = extras;
        this.faults = Collections.synchronizedMap(new WeakHashMap<>());
    }

    /** A copy of another, with a layer of its own. */
    private Workpiece(Workpiece other, Layer layer) {
        this.origin = other.origin;
        this.editor = StageEditor.of(layer, other.layers, Population.ALL);
        this.layers = other.layers;
        this.meshes = other.meshes;
        this.extras = other.extras;
        this.faults = other.faults;
        this.scratch = other.scratch;
    }

    /** What workpieces share: what was read once need not be read again. */
    public record Sources(FileReaders readers, LayerCache layers, MeshCache meshes) {
        /** The layers that a file may be made of. */
        LayerCache layersOf(Path file) {
            // Images that were made, or came embedded, stand in the folder of this process.
            return layers.through(readers.gate(file).orWhere(Scratch::holds));
        }
    }

    /**
     * A working copy of a file. Where the file does not say in what unit its figures are, the likeliest one is taken, as when
     * it is received.
     *
     * @throws pantry.base.PantryException where it cannot be read
     */
    public static Workpiece of(Path file, Sources sources, Progress progress) {
        return of(file, UnaryOperator.identity(), sources, progress);
    }

    /**
     * A working copy of a file, whose figures are understood as a person says. Files of USD say themselves how they are meant.
     *
     * @param wanted of what the file says, or else is likely
     * @throws pantry.base.PantryException where it cannot be read
     */
    public static Workpiece of(Path file, UnaryOperator<Reading> wanted, Sources sources, Progress progress) {
        Path source = file.toAbsolutePath().normalize();
        try {
            if (Files.isRegularFile(source) && FileKind.of(source) == FileKind.USD && !isPackage(source)) {
                return of(source, sources, Optional.empty());
            }
        } catch (IOException e) {
            throw new PrepException(source, null, "cannot be read", e);
        }
        Imported imported = sources.readers().read(source, progress);
        Reading reading = wanted.apply(likely(imported));
        Matrix4 change = reading.up().toMetres(reading.unit());
        Model model = imported.model().reframed(change);
        String name = Names.identifier(Names.stem(source.getFileName().toString()));
        Layer layer = UsdModelWriter.layer(
                model, name, source.resolveSibling(source.getFileName() + ".usda"), texture -> texture.file()
                        .map(image -> AssetPaths.relative(source.getParent(), image))
                        .orElse(texture.name()));
        StageEditor editor = StageEditor.of(layer, sources.layersOf(source), Population.ALL);
        return new Workpiece(
                new Origin(source, Optional.of(reading), Optional.empty()),
                editor,
                sources,
                imported.model().extras());
    }

    private static Reading likely(Imported imported) {
        Slip likely = Intake.suggested(imported, "", Neighbours.NONE);
        return new Reading(likely.factor(), likely.up());
    }

    private static boolean isPackage(Path file) throws IOException {
        try (var in = Files.newInputStream(file)) {
            return new String(in.readNBytes(2), java.nio.charset.StandardCharsets.ISO_8859_1).equals("PK");
        }
    }

    /** A working copy of a version of an asset. */
    public static Workpiece of(Shelved shelved, Sources sources) {
        return of(workLayer(shelved), sources, Optional.of(shelved));
    }

    private static Workpiece of(Path file, Sources sources, Optional<Shelved> shelved) {
        StageEditor editor = StageEditor.open(file, sources.layersOf(file), Population.ALL);
        return new Workpiece(new Origin(file, Optional.empty(), shelved), editor, sources, Model.Extras.NONE);
    }

    /** The layer with an asset's objects: what the entry layer has as its one payload, or else that layer itself. */
    private static Path workLayer(Shelved shelved) {
        Path entry = shelved.asset().entryLayer(shelved.version());
        Layer layer = LayerFiles.read(entry);
        return layer.defaultPrimPath()
                .flatMap(layer::prim)
                .filter(UsdPhysicalMaterials::hasNothingBesides)
                .flatMap(prim -> new LocalPayload(prim).only())
                .map(asset -> entry.resolveSibling(asset).normalize())
                .filter(Files::isRegularFile)
                .orElse(entry);
    }

    /** The same, apart from this one from now on; what the two hold is shared. */
    public Workpiece copy() {
        return new Workpiece(
                this, LayerAssets.copied(layer(), layer().location().orElseThrow()));
    }

    /** How the file's figures were understood; empty where the file says it itself, as those of USD do. */
    public Optional<Reading> reading() {
        return origin.reading();
    }

    /** The file that it is a copy of. */
    public Path source() {
        return origin.source();
    }

    public Optional<Shelved> shelved() {
        return origin.shelved();
    }

    /** What the file carries that is no surface and is not in the copy. */
    public Model.Extras extras() {
        return extras;
    }

    /** As a person would call it. */
    public String title() {
        return origin.shelved().map(place -> place.asset().card().name()).orElseGet(() -> source().getFileName()
                .toString());
    }

    /** The working copy itself; to be changed only by fixes. */
    public Layer layer() {
        return editor.rootLayer();
    }

    public StageEditor editor() {
        return editor;
    }

    Stage stage() {
        return editor.stage();
    }

    LayerCache layers() {
        return layers;
    }

    public MeshCache meshes() {
        return meshes;
    }

    MeshFaults faults(Mesh mesh) {
        MeshFaults known = faults.get(mesh);
        if (known == null) {
            known = MeshFaults.of(mesh);
            faults.put(mesh, known);
        }
        return known;
    }

    /** What is rendered of it, in metres, Y up; of a material by itself, the balls that show it. */
    public Model model() {
        return inMetres(rendered());
    }

    /** As {@link #model()}, without what is there only to show the rest. */
    Model surfaces() {
        return inMetres(drawn());
    }

    private Model rendered() {
        return UsdModelReader.withSamples(stage(), meshes, drawn());
    }

    private Model drawn() {
        return UsdModelReader.read(stage(), meshes, Bounds.DRAWN).model();
    }

    /** As {@link #model()}, with the skeleton that it hangs on and its motions, where it has some. */
    public Model moving() {
        return inMetres(UsdSkelReader.rigged(stage(), rendered()));
    }

    /** What is shown of it for some purposes, in metres, Y up. */
    public Model model(Set<String> purposes) {
        return inMetres(UsdModelReader.read(stage(), meshes, purposes).model());
    }

    private Model inMetres(Model read) {
        return read.named(title()).reframed(UsdModelReader.toMetres(layer()));
    }

    /** What it weighs: triangles, objects, images, and what its own arrays take. */
    public Weight weight() {
        return LayerWeight.of(model(), layer());
    }

    /** A new file for an image that is made; gone when the program ends, unless the workpiece is saved. */
    public Path newImage(String name) {
        try {
            Path folder = scratch;
            if (folder == null) {
                folder = Scratch.folder("prep");
                scratch = folder;
            }
            Path inside = Files.createTempDirectory(folder, "image-");
            return inside.resolve(name);
        } catch (IOException e) {
            throw new UncheckedIOException("no folder for images can be made", e);
        }
    }

    /**
     * Writes it to a file of the format that the ending tells. Images that were made go beside it.
     *
     * @return what the format cannot hold, a line each
     * @throws pantry.base.PantryException where the file cannot be written; there is then the old one, or none
     */
    public List<String> save(Path file) {
        Path target = file.toAbsolutePath().normalize();
        if (target.equals(source()) && shelved().isPresent()) {
            throw new PrepException(
                    target, "is part of a sealed version; publish the working copy, or save it elsewhere");
        }
        if (!LayerFiles.isLayer(target.getFileName().toString())) {
            return ModelWriters.write(model(), target, ModelWriters.Options.of(source()))
                    .left();
        }
        Path folder = target.getParent();
        if (target.getFileName().toString().endsWith(".usdz")) {
            List<String> left = new ArrayList<>();
            UsdPackager.write(layer(), layers, target, Optional.of(left::add));
            return left;
        }
        LayerFiles.write(LayerAssets.renamed(layer(), AssetLocation.of(target), inFolder(folder)), target);
        return List.of();
    }

    /** Asset paths as they are named from another folder; what only this run has is copied there. */
    private UnaryOperator<String> inFolder(Path folder) {
        return written -> {
            AssetLocation place = layers.resolve(layer(), written);
            if (place.isPackaged() || !Files.exists(place.file())) {
                return written;
            }
            Path image = place.file();
            Path made = scratch;
            if (made != null && image.startsWith(made)) {
                Path kept = folder.resolve("textures").resolve(image.getFileName());
                try {
                    Files.createDirectories(kept.getParent());
                    AtomicFiles.write(kept, Files.readAllBytes(image));
                } catch (IOException e) {
                    throw new PrepException(kept, null, "cannot be written", e);
                }
                return AssetPaths.relative(folder, kept);
            }
            return AssetPaths.relative(folder, image);
        };
    }

    /** From the space of the layer's world into metres with Y up. */
    public Matrix4 inMetres(Matrix4 world) {
        return world.times(UsdModelReader.toMetres(layer()));
    }

    /** The prims at the top that are objects. */
    public List<SdfPath> tops() {
        return stage().root().children().stream().map(prim -> prim.path()).toList();
    }
}
