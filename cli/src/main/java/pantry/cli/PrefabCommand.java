package pantry.cli;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import pantry.library.AssetKind;
import pantry.scene.Scene;
import pantry.usd.SdfPath;
import pantry.usecase.MakeAsset;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(name = "prefab", description = "Put objects of a scene, or all of it, on a shelf as one asset.")
final class PrefabCommand extends LibraryCommand<LibraryCommand.AssetLine> {
    @Parameters(paramLabel = "SCENE", description = "The scene's file.")
    private Path scene = Path.of("");

    @Option(names = "--prim", paramLabel = "P", description = "An object of the scene; may be given again.")
    private List<String> prims = new ArrayList<>();

    @Option(names = "--name", required = true, paramLabel = "N", description = "The asset's name.")
    private String name = "";

    @Option(names = "--shelf", required = true, paramLabel = "S", description = "Its shelf; made where it is missing.")
    private String shelf = "";

    @Option(names = "--kind", paramLabel = "K", description = "prefab (usual), light_rig or scene.")
    private AssetKind kind = AssetKind.PREFAB;

    @Option(names = "--tag", paramLabel = "T", description = "A tag; may be given again.")
    private List<String> tags = new ArrayList<>();

    PrefabCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    AssetLine work() {
        Scene open = workbench.openScene(scene);
        MakeAsset.Result made = new MakeAsset(workbench.layers(open.file()), workbench.renderCache())
                .run(source(open, prims), library(), new MakeAsset.Options(name, kind, shelf, tags), output.progress());
        if (made.droppedMemberships() > 0) {
            output.say("pantry prefab: " + made.droppedMemberships()
                    + " members of drawers do not come along, and are left out of the prefab's drawers");
        }
        return AssetLine.of(made.asset());
    }

    /** The prims of a scene that are named, or all of it. */
    static MakeAsset.Source source(Scene scene, List<String> prims) {
        return new MakeAsset.Source(
                scene,
                prims.isEmpty()
                        ? List.of(scene.root())
                        : prims.stream().map(SdfPath::of).toList());
    }

    @Override
    void tell(AssetLine line) {
        output.line("shelved %s on %s", line.name(), line.shelf());
    }
}
