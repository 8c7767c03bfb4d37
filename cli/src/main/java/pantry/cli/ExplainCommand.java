package pantry.cli;

import java.nio.file.Path;
import pantry.scene.Explanation;
import pantry.scene.SceneException;
import pantry.scene.SceneTree;
import pantry.usd.SdfPath;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Parameters;

@Command(
        name = "explain",
        description = "Tell where a prim or property comes from: what each layer says of it, the strongest first.")
final class ExplainCommand extends PantryCommand<Explanation> {
    @Parameters(index = "0", paramLabel = "FILE", description = "A USD file.")
    private Path file = Path.of("");

    @Parameters(
            index = "1",
            paramLabel = "PATH",
            description = "A prim, such as /Station/Mast, or a property of one: /Station/Mast.visibility")
    private String path = "";

    ExplainCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Explanation work() {
        return Explanation.of(workbench.openScene(file).stage(), SdfPath.of(path))
                .orElseThrow(() -> new SceneException(file, "no layer says anything of <" + path + ">"));
    }

    @Override
    void tell(Explanation explanation) {
        output.line("%s  %s  %s", explanation.path(), explanation.what(), explanation.value());
        for (Explanation.Line line : explanation.opinions()) {
            output.line("  %-10s %s <%s>", line.arc(), line.layer(), line.path());
            output.line("             %s", line.says());
            if (line.chain().size() > 2) {
                for (SceneTree.Arc site : line.chain().subList(1, line.chain().size() - 1)) {
                    output.line("             through the %s of %s <%s>", site.arc(), site.layer(), site.path());
                }
            }
        }
    }
}
