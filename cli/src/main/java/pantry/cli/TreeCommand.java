package pantry.cli;

import java.nio.file.Path;
import pantry.scene.SceneTree;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Parameters;

@Command(name = "tree", description = "List the prims of a composed scene, and what could not be composed.")
final class TreeCommand extends PantryCommand<SceneTree> {
    @Parameters(paramLabel = "SCENE", description = "A USD file.")
    private Path file = Path.of("");

    TreeCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    SceneTree work() {
        SceneTree tree = SceneTree.of(workbench.openScene(file).stage());
        for (SceneTree.Error error : tree.errors()) {
            output.say("pantry tree: " + error.path() + ": " + error.message());
        }
        return tree;
    }

    @Override
    void tell(SceneTree tree) {
        for (SceneTree.Line line : tree.prims()) {
            int depth = (int) line.path().chars().filter(c -> c == '/').count() - 1;
            String name = line.path().substring(line.path().lastIndexOf('/') + 1);
            output.line(
                    "%s%s%s%s%s%s",
                    "  ".repeat(depth),
                    name,
                    line.type().isEmpty() ? "" : "  " + line.type(),
                    line.active() ? "" : "  inactive",
                    line.instance() ? "  instance of " + line.prototype() : "",
                    line.references().isEmpty() ? "" : "  → " + String.join(", ", line.references()));
        }
    }
}
