package pantry.cli;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import pantry.base.Names;
import pantry.base.PantryException;
import pantry.base.math.Vec3;
import pantry.library.Asset;
import pantry.scene.Placement;
import pantry.scene.Scene;
import pantry.usd.SdfPath;
import pantry.usd.schema.Placing;
import pantry.workbench.Workbench;
import picocli.CommandLine.ArgGroup;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(name = "reference", description = "Place an asset, or another USD file, in a scene by a live link.")
final class ReferenceCommand extends PantryCommand<ReferenceCommand.Result> {
    @Parameters(index = "0", paramLabel = "SCENE", description = "The scene's file.")
    private Path sceneFile = Path.of("");

    @Parameters(index = "1", paramLabel = "WHAT", description = "An asset's id or Shelf/Name; or a USD file.")
    private String what = "";

    @Option(names = "--library", paramLabel = "L", description = "The library to look for the asset in.")
    private Optional<Path> library = Optional.empty();

    @Option(names = "--at", paramLabel = "X,Y,Z", description = "Where it stands, metres.")
    private Optional<String> at = Optional.empty();

    @Option(names = "--turn", paramLabel = "X,Y,Z", description = "Turned about x, then y, then z, degrees.")
    private Optional<String> turn = Optional.empty();

    @Option(names = "--scale", paramLabel = "S", description = "One factor, or three as X,Y,Z.")
    private Optional<String> scale = Optional.empty();

    @Option(names = "--under", paramLabel = "PATH", description = "An existing prim to place it under.")
    private Optional<String> under = Optional.empty();

    @Option(names = "--name", paramLabel = "N", description = "The placement's name.")
    private Optional<String> name = Optional.empty();

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
        Placing placing = new Placing(
                at.map(text -> triple("--at", text)).orElse(Vec3.ZERO),
                turn.map(text -> triple("--turn", text)).orElse(Vec3.ZERO),
                scale.map(this::factors).orElse(Vec3.ONE));
        Optional<SdfPath> parent = under.map(SdfPath::of);
        Scene scene = workbench.openScene(sceneFile);
        SdfPath path = place(scene, placing, parent);
        scene.save();
        Placement placement = scene.placement(path).orElseThrow();
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

    private SdfPath place(Scene scene, Placing placing, Optional<SdfPath> parent) {
        if (library.isPresent()) {
            Asset asset = workbench.openLibrary(library.get()).find(what);
            return scene.place(asset, holding.pin, name.orElse(asset.card().name()), placing, parent);
        }
        Path file = Path.of(what);
        if (!Files.exists(file)) {
            throw new PantryException(file, "there is no such file; to place an asset, say in which --library it is");
        }
        return scene.placeFile(file, name.orElse(Names.stem(file.getFileName().toString())), placing, parent);
    }

    private Vec3 factors(String text) {
        if (!text.contains(",")) {
            double factor = number("--scale", text);
            return new Vec3(factor, factor, factor);
        }
        return triple("--scale", text);
    }

    private Vec3 triple(String option, String text) {
        String[] parts = text.split(",", -1);
        if (parts.length != 3) {
            throw wrongCall(option + " takes three numbers with commas, such as 1.5,0,-2; not " + text);
        }
        return new Vec3(number(option, parts[0]), number(option, parts[1]), number(option, parts[2]));
    }

    private double number(String option, String text) {
        try {
            double number = Double.parseDouble(text.strip());
            if (Double.isFinite(number)) {
                return number;
            }
        } catch (NumberFormatException e) {
            // Said below, together with numbers that are not finite.
        }
        throw wrongCall(option + ": " + text + " is not a number.");
    }
}
