package pantry.cli;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import pantry.library.Asset;
import pantry.library.Published;
import pantry.library.VersionStatus;
import pantry.scene.Scene;
import pantry.usecase.MakeAsset;
import pantry.usecase.NextVersion;
import pantry.usecase.PublishFile;
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

    private NextVersion version(Asset asset) {
        return new NextVersion(asset, draft ? VersionStatus.DRAFT : VersionStatus.READY, note);
    }

    private Published fromScene(Asset asset) {
        Scene open = workbench.openScene(scene.orElseThrow());
        return new MakeAsset(workbench.layers(open.file()), workbench.renderCache())
                .publish(PrefabCommand.source(open, prims), library(), version(asset), output.progress());
    }

    private Published fromFile(Asset asset) {
        options.check();
        return new PublishFile(workbench.intake())
                .run(
                        library(),
                        new PublishFile.Options(version(asset), file.orElseThrow(), options::onSuggested),
                        output.progress());
    }

    @Override
    void tell(Result result) {
        output.line("%s %s is %s", result.name(), result.version(), result.status());
    }
}
