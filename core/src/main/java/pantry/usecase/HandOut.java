package pantry.usecase;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import pantry.base.FileGate;
import pantry.base.IoProblems;
import pantry.base.Names;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.exchange.ModelWriters;
import pantry.exchange.format.ExportImages;
import pantry.exchange.format.ExportNotes;
import pantry.exchange.format.Imported;
import pantry.exchange.usd.MeshCache;
import pantry.exchange.usd.UsdCustomValues;
import pantry.exchange.usd.UsdModelReader;
import pantry.exchange.usd.UsdMotionReader;
import pantry.exchange.usd.UsdSkelReader;
import pantry.library.Asset;
import pantry.model.Axis;
import pantry.model.Model;
import pantry.motion.BlendShapes;
import pantry.motion.Skin;
import pantry.scene.RiggedScene;
import pantry.scene.Scene;
import pantry.scene.SceneMotion;
import pantry.usd.AssetLocation;
import pantry.usd.AssetPaths;
import pantry.usd.Layer;
import pantry.usd.compose.Flattener;
import pantry.usd.compose.Stage;
import pantry.usd.file.Assets;
import pantry.usd.file.LayerAssets;
import pantry.usd.file.LayerFiles;
import pantry.usd.file.UsdPackager;
import pantry.workbench.Workbench;

/** Writes assets and files for other programs. */
public final class HandOut {
    /** The endings of the formats in which assets can be handed out. */
    public static final List<String> FORMATS =
            List.of("glb", "gltf", "usdz", "usdc", "usda", "obj", "ply", "stl", "mtlx");

    private final Workbench workbench;

    public HandOut(Workbench workbench) {
        this.workbench = workbench;
    }

    /**
     * A file that was written.
     *
     * @param model what it shows, metres, Y up
     * @param left what the format cannot hold, what is written in another way, and what was missing: a line each
     */
    public record HandedOut(Path file, Model model, List<String> left) {
        public HandedOut {
            left = List.copyOf(left);
        }
    }

    /**
     * Units of numbers, metres each.
     *
     * @param source of a file that does not say its own; it is taken for one in metres otherwise
     * @param target of a format that does not say its own
     * @param targetName what that is called
     */
    public record Units(Optional<Double> source, double target, String targetName) {
        public static final Units METRES = new Units(Optional.empty(), 1, "metres");
    }

    /**
     * Writes a version of an asset as one file, with what belongs beside it.
     *
     * @param ending one of {@link #FORMATS}
     * @param folder made where it is missing
     * @throws PantryException where the folder cannot be made or the file cannot be written
     */
    public HandedOut write(Asset asset, String version, String ending, Path folder, Progress progress) {
        try {
            Files.createDirectories(folder);
        } catch (IOException e) {
            throw new PantryException(folder, "cannot be made: " + IoProblems.describe(e), e);
        }
        progress.step("writing " + asset.card().name(), -1);
        Path file = folder.resolve(asset.slug() + "." + ending);
        return composed(asset.entryLayer(version), file, Units.METRES);
    }

    /**
     * Writes a file that can be read in another format. Nothing is moved, and nothing changes its size: a file that does
     * not say its unit is taken for one in metres, unless it is told.
     *
     * @throws PantryException where it cannot be read or written
     */
    public HandedOut write(Path source, Path target, Units units, Progress progress) {
        if (LayerFiles.isLayer(source.toString())) {
            return composed(source, target, units);
        }
        Imported imported = workbench.readers().read(source, progress);
        double unit = imported.unit().or(units::source).orElse(1.0);
        Model model = imported.model().reframed(imported.up().orElse(Axis.Y).toMetres(unit));
        return modelled(model, source, target, units, imported.holds().isShownBySamples());
    }

    /** @param samples whether the model only shows what has no surface */
    private static HandedOut modelled(Model model, Path source, Path target, Units units, boolean samples) {
        ModelWriters.Options options =
                new ModelWriters.Options(units.target(), units.targetName(), Optional.of(source), samples);
        return new HandedOut(
                target, model, ModelWriters.write(model, target, options).left());
    }

    private HandedOut composed(Path layer, Path file, Units units) {
        Scene scene = workbench.openScene(layer);
        if (!LayerFiles.isLayer(file.toString())) {
            Model model = moving(scene);
            Model seen = UsdModelReader.withSamples(scene.stage(), new MeshCache(), model);
            Model.Extras extras = seen.extras().carrying(UsdCustomValues.of(scene.stage()));
            return modelled(seen.named(model.name()).with(extras), layer, file, units, false);
        }
        ExportNotes notes = new ExportNotes(Optional.of(layer));
        boolean packed = Names.ending(file.getFileName().toString()).equals("usdz");
        FileGate gate = scene.stage().gate();
        Layer flat = Flattener.flatten(scene.stage(), Flattener.Instances.SHARED, file);
        ExportImages images = new ExportImages(file, notes);
        Layer named = LayerAssets.renamed(flat, AssetLocation.of(file), path -> {
            if (LayerFiles.isLayer(path)) {
                return path;
            }
            Optional<Path> there = Assets.onDisk(AssetPaths.PLAIN.resolve(flat, path), path, flat, gate);
            if (there.isEmpty()) {
                notes.missing(path);
                return "";
            }
            return packed ? path : "./" + images.path(there.get(), named(path));
        });
        if (packed) {
            UsdPackager.write(named, workbench.layers(layer), file, Optional.of(notes::left));
        } else {
            LayerFiles.write(named, file);
        }
        return new HandedOut(file, scene.model(), notes.lines());
    }

    /** What a file shows, with the skeleton that parts of it hang on; of a scene, with all that moves in it. */
    private static Model moving(Scene scene) {
        Model still = scene.model();
        if (Scene.isScene(scene.file())) {
            // What stands in instances moves as well, each at its own time.
            double frames = scene.stage()
                    .rootLayer()
                    .number("framesPerSecond")
                    .orElseGet(
                            () -> UsdMotionReader.codesPerSecond(scene.stage().rootLayer()));
            return SceneMotion.of(scene, still)
                    .map(motion -> RiggedScene.of(motion, frames).orElseGet(() -> motion.at(motion.start())))
                    .orElse(still);
        }
        if (still.meshes().stream()
                .noneMatch(mesh ->
                        Skin.of(mesh).isPresent() || !BlendShapes.of(mesh).isEmpty())) {
            return still;
        }
        Stage stage = scene.stage();
        Model own = UsdModelReader.read(stage, new MeshCache()).model();
        return UsdSkelReader.rigged(stage, own)
                .reframed(UsdModelReader.toMetres(stage.rootLayer()))
                .named(still.name());
    }

    /** An asset path's last name; of a path into a package, the entry's. */
    private static String named(String path) {
        String inner = path.endsWith("]") ? path.substring(path.lastIndexOf('[') + 1, path.length() - 1) : path;
        return inner.substring(inner.replace('\\', '/').lastIndexOf('/') + 1);
    }
}
