package pantry.cli;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import pantry.base.Names;
import pantry.base.PantryException;
import pantry.library.Asset;
import pantry.scene.Placement;
import pantry.scene.Scene;
import pantry.usd.SdfPath;
import pantry.usd.schema.TransformComponents;
import pantry.workbench.Workbench;
import picocli.CommandLine.ArgGroup;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(name = "reference", description = "Place an asset, or another USD file, in a scene by a live link.")
final class ReferenceCommand extends SceneCommand<ReferenceCommand.Result> {
    @Parameters(index = "0", paramLabel = "SCENE", description = "The scene's file.")
    private Path sceneFile = Path.of("");

    @Parameters(index = "1", paramLabel = "WHAT", description = "An asset's id or Shelf/Name; or a USD file.")
    private String what = "";

    @Mixin
    private Place where = new Place();

    @Option(
            names = "--prim",
            paramLabel = "PATH",
            description = "Refer to this one prim of a file rather than to all of it.")
    private Optional<String> part = Optional.empty();

    @ArgGroup(exclusive = true)
    private Holding holding = new Holding();

    static final class Holding {
        @Option(names = "--pin", paramLabel = "V", description = "Hold on to one version, such as v001.")
        private Optional<String> pin = Optional.empty();

        @Option(names = "--follow", description = "Show whatever version is ready (usual).")
        private boolean follow;
    }

    record Result(String scene, String path, String held, String layer, String version) {}

    ReferenceCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        TransformComponents placing = where.placing(this);
        Scene scene = workbench.openScene(sceneFile);
        Optional<SdfPath> parent = where.under(this, scene);
        SdfPath path = place(scene, placing, parent);
        save(scene);
        Placement placement = scene.placements().at(path).orElseThrow();
        return new Result(
                scene.file().toString(),
                path.toString(),
                placement.held().name().toLowerCase(java.util.Locale.ROOT),
                placement.layer().toString(),
                placement.version());
    }

    @Override
    void tell(Result result) {
        output.line("%s stands in %s as %s", what, result.scene(), result.path());
    }

    private SdfPath place(Scene scene, TransformComponents placing, Optional<SdfPath> parent) {
        if (library().isPresent()) {
            Asset asset = asset(what);
            return scene.placements()
                    .place(asset, holding.pin, where.name(asset.card().name()), placing, parent);
        }
        Path file = Path.of(what);
        if (!Files.exists(file)) {
            throw new PantryException(file, "there is no such file; to place an asset, say in which --library it is");
        }
        return scene.placements()
                .placeFile(
                        file,
                        part.map(SdfPath::of),
                        where.name(Names.stem(file.getFileName().toString())),
                        placing,
                        parent);
    }
}
