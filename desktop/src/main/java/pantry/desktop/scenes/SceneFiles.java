package pantry.desktop.scenes;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import javafx.scene.Node;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.desktop.controls.Ask;
import pantry.desktop.session.Units;
import pantry.scene.Scene;
import pantry.usd.Layer;
import pantry.usd.compose.Flattener;
import pantry.usd.compose.LayerCache;
import pantry.usd.file.LayerFiles;
import pantry.usd.file.UsdPackager;
import pantry.usecase.HandOut;

/** Writes the open scene for others: with all that it names, as a model, or as one layer. It is saved before. */
final class SceneFiles {
    private final ScenesModel model;
    private final Node near;

    /** @param near what the system's dialogs belong to */
    SceneFiles(ScenesModel model, Node near) {
        this.model = model;
        this.near = near;
    }

    /** Lets the user choose a package that the scene goes into with all that it names. */
    void pack() {
        ask("Pack the scene", ".usdz", ask -> ask.kind("USD package", "usdz")).ifPresent(this::pack);
    }

    /** What is not there, or may not be read, is left out and told. */
    void pack(Path to) {
        write("packing", to, (scene, progress) -> {
            LayerCache layers = model.session().workbench().layers(scene.file());
            List<String> missing = new ArrayList<>();
            int files = UsdPackager.write(layers.open(scene.file()), layers, to, Optional.of(missing::add));
            missing.replaceAll(each -> "left out " + each);
            return new Written(Units.counted(files, "file"), missing);
        });
    }

    /** Lets the user choose a model file that shows what the scene shows. */
    void export() {
        ask(
                        "Export the scene as a model",
                        ".glb",
                        ask -> ask.kind("Models", "glb", "gltf", "obj", "ply", "stl", "usda", "usdc", "usdz"))
                .ifPresent(this::export);
    }

    /** @param to its ending tells the format */
    void export(Path to) {
        write("exporting", to, (scene, progress) -> {
            HandOut.HandedOut written =
                    new HandOut(model.session().workbench()).write(scene.file(), to, HandOut.Units.METRES, progress);
            return new Written(Units.count(written.model().trianglesDrawn()) + " triangles", written.left());
        });
    }

    /** Lets the user choose a layer that says all that the scene comes to, and refers to nothing. */
    void flatten() {
        ask("Flatten the scene into one layer", ".usda", ask -> ask.kind("USD layers", "usda", "usdc", "usdz"))
                .ifPresent(this::flatten);
    }

    /** @param to its ending tells the format; instances stay shared */
    void flatten(Path to) {
        write("flattening", to, (scene, progress) -> {
            Layer layer = Flattener.flatten(scene.stage(), Flattener.Instances.SHARED, to);
            LayerFiles.write(layer, model.session().workbench().layers(scene.file()), to);
            return new Written(
                    "one layer",
                    scene.stage().problems().stream()
                            .map(problem -> problem.prim() + ": " + problem.message())
                            .toList());
        });
    }

    private Optional<Path> ask(String title, String ending, Function<Ask, Ask> kinds) {
        return model.sceneProperty().get().flatMap(scene -> kinds.apply(Ask.of(near, title)
                        .named(SceneNames.title(scene.file()) + ending)
                        .in(Optional.ofNullable(scene.file().getParent())))
                .saveAs());
    }

    /** @param left what is not in the file */
    private record Written(String holds, List<String> left) {}

    private interface Writing {
        Written write(Scene saved, Progress progress);
    }

    /** Writes the scene as it is saved, in the background. */
    private void write(String doing, Path to, Writing writing) {
        Optional<Path> file = model.sceneProperty().get().map(Scene::file);
        if (file.isEmpty()) {
            model.session().wrong(new PantryException("no scene is open"));
            return;
        }
        if (file.get().equals(to.toAbsolutePath().normalize())) {
            model.session().wrong(new PantryException(to, "is the open scene itself; choose another file"));
            return;
        }
        model.keeping().save(() -> model.session()
                .run(
                        doing + " " + SceneNames.title(file.get()),
                        progress -> writing.write(model.session().workbench().openScene(file.get()), progress),
                        written -> {
                            model.session().told(to.getFileName() + " holds the scene: " + written.holds());
                            written.left().forEach(line -> model.session()
                                    .wrong(new PantryException(to, "has not all: " + line)));
                        }));
    }
}
