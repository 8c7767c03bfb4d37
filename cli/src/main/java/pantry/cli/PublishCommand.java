package pantry.cli;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import pantry.exchange.format.Imported;
import pantry.intake.Intake;
import pantry.intake.Neighbours;
import pantry.intake.Slip;
import pantry.library.Asset;
import pantry.library.Library;
import pantry.library.Published;
import pantry.library.VersionStatus;
import pantry.scene.Scene;
import pantry.usd.SdfPath;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(name = "publish", description = "Publish a file, or an earlier version once more, as an asset's next version.")
final class PublishCommand extends LibraryCommand<PublishCommand.Result> {
    @Parameters(index = "0", paramLabel = "ASSET", description = "The asset's id or Shelf/Name.")
    private String what = "";

    @Parameters(index = "1", arity = "0..1", paramLabel = "FILE", description = "Any file that can be received.")
    private Optional<Path> file = Optional.empty();

    @Option(names = "--again", paramLabel = "V", description = "Go back: publish this earlier version as the newest.")
    private Optional<String> again = Optional.empty();

    @Option(names = "--scene", paramLabel = "S", description = "Take it from this scene.")
    private Optional<Path> scene = Optional.empty();

    @Option(names = "--prim", paramLabel = "P", description = "Objects of the scene; all of it if not given.")
    private List<String> prims = new ArrayList<>();

    @Option(names = "--note", required = true, paramLabel = "N", description = "What is new in this version.")
    private String note = "";

    @Option(names = "--draft", description = "As a draft; scenes that follow the asset keep the version they have.")
    private boolean draft;

    @Mixin
    private SlipOptions options = new SlipOptions();

    record Result(String asset, String name, String version, String status, String path) {}

    PublishCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        long sources = Stream.of(file, again, scene).filter(Optional::isPresent).count();
        if (sources != 1) {
            throw wrongCall("Give a FILE, or --again with an earlier version, or --scene.");
        }
        if (note.isBlank()) {
            throw wrongCall("--note must say something.");
        }
        Asset asset = asset(what);
        Published published;
        if (again.isPresent()) {
            published = library().goBack(asset, again.get(), note, output.progress());
        } else if (scene.isPresent()) {
            published = fromScene(asset);
        } else {
            published = fromFile(asset);
        }
        return new Result(
                published.asset().card().id(),
                published.asset().card().name(),
                published.version(),
                published.asset().status(published.version()).word(),
                published.asset().folder().resolve(published.version()).toString());
    }

    private VersionStatus status() {
        return draft ? VersionStatus.DRAFT : VersionStatus.READY;
    }

    private Published fromScene(Asset asset) {
        Scene open = workbench.openScene(scene.orElseThrow());
        List<SdfPath> chosen = prims.isEmpty()
                ? List.of(open.root())
                : prims.stream().map(SdfPath::of).toList();
        return workbench.prefab(open, chosen, library()).publish(asset, status(), note, output.progress());
    }

    private Published fromFile(Asset asset) {
        options.check();
        Library library = library();
        // Before anything is read: the work would be in vain.
        library.reservations().requireFree(asset);
        Imported arrival = workbench.intake().read(file.orElseThrow(), output.progress());
        Slip slip = options.on(Intake.suggested(arrival, asset.shelf(), Neighbours.on(library, asset.shelf())));
        slip = options.factor().map(slip::withFactor).orElse(slip);
        slip = options.up().map(slip::withUp).orElse(slip);
        return workbench.intake().publish(arrival, slip, asset, status(), note, library, output.progress());
    }

    @Override
    void tell(Result result) {
        output.line("%s %s is %s", result.name(), result.version(), result.status());
    }
}
