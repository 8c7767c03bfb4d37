package pantry.cli;

import java.util.List;
import pantry.prep.tools.Renaming;
import pantry.usd.SdfPath;
import pantry.workbench.Workbench;
import pantry.workpiece.Workpiece;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(name = "rename", description = "Give objects of a file or asset new names by a pattern.")
final class RenameCommand extends PrepCommand<RenameCommand.Result> {
    @Parameters(
            index = "0",
            paramLabel = "FILE|ASSET",
            description = "A file; or, with --library, an asset's id or Shelf/Name.")
    private String what = "";

    @Parameters(
            index = "1..*",
            arity = "0..*",
            paramLabel = "OBJECT",
            description = "Objects' paths or names; none for all meshes and groups below the root.")
    private List<String> objects = List.of();

    @Option(
            names = "--pattern",
            paramLabel = "P",
            defaultValue = "<name>",
            description = "The new name, with <name>, <kind>, <shelf>, <parent> and numbers such as <01>.")
    private String pattern = "<name>";

    @Option(names = "--find", paramLabel = "T", defaultValue = "", description = "Text to be replaced in the name.")
    private String find = "";

    @Option(names = "--with", paramLabel = "T", defaultValue = "", description = "What takes its place.")
    private String with = "";

    @Option(names = "--expression", description = "What is found is a regular expression.")
    private boolean expression;

    @Option(
            names = "--letters",
            paramLabel = "L",
            defaultValue = "AS_THEY_ARE",
            description = "One of ${COMPLETION-CANDIDATES}.")
    private Renaming.Letters letters = Renaming.Letters.AS_THEY_ARE;

    @Mixin
    private Target target = new Target();

    record Line(String path, String before, String after, boolean clash) {}

    record Result(List<Line> names, Saved saved) {}

    RenameCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        Workpiece piece = workpiece(what);
        List<SdfPath> paths = objects.isEmpty()
                ? Renaming.usual(piece)
                : objects.stream().map(named -> path(piece, named)).toList();
        List<Renaming.Line> lines = new Renaming(pattern, find, with, expression, letters).lines(piece, paths);
        Saved saved = Saved.NOTHING;
        if (target.isGiven()) {
            requireTarget(target, piece);
            Renaming.apply(piece, lines);
            saved = save(piece, target, "renamed");
        }
        return new Result(
                lines.stream()
                        .filter(Renaming.Line::changes)
                        .map(line -> new Line(line.path().toString(), line.before(), line.after(), line.clash()))
                        .toList(),
                saved);
    }

    @Override
    void tell(Result result) {
        for (Line line : result.names()) {
            output.line(
                    "%s → %s%s", line.before(), line.after(), line.clash() ? "  (numbered: the name is taken)" : "");
        }
        output.line("%d new names", result.names().size());
        tell(result.saved());
    }
}
