package pantry.cli;

import java.util.List;
import pantry.library.Asset;
import pantry.usecase.MixParts;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Parameters;

@Command(
        name = "remake",
        description = "Publish the materials anew that use a material part, with images of what it is now.")
final class RemakeCommand extends LibraryCommand<RemakeCommand.Result> {
    @Parameters(index = "0", paramLabel = "PART", description = "The part's id or Shelf/Name.")
    private String what = "";

    record Made(String asset, String name, String version) {}

    /** @param left the materials that were not made anew, with the reasons */
    record Result(String part, List<Made> made, List<String> left) {}

    RemakeCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        Asset part = asset(what);
        MixParts.Remade remade =
                new MixParts(workbench.intake(), workbench.readers(), library()).remake(part, output.progress());
        return new Result(
                part.card().name(),
                remade.made().stream()
                        .map(each -> new Made(
                                each.asset().card().id(), each.asset().card().name(), each.version()))
                        .toList(),
                remade.left());
    }

    @Override
    void tell(Result result) {
        if (result.made().isEmpty() && result.left().isEmpty()) {
            output.line("no material uses %s", result.part());
        }
        result.made().forEach(each -> output.line("%s %s", each.name(), each.version()));
        result.left().forEach(each -> output.line("not made anew: %s", each));
    }
}
