package pantry.cli;

import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import pantry.library.Asset;
import pantry.library.Published;
import pantry.library.VersionStatus;
import pantry.usecase.MixParts;
import pantry.usecase.MixParts.Change;
import pantry.usecase.NextVersion;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "mix",
        description =
                "Mix a material part, such as rust, into a material, as its next version; or tell what is mixed in.")
final class MixCommand extends LibraryCommand<MixCommand.Result> {
    @Parameters(index = "0", paramLabel = "MATERIAL", description = "The material's id or Shelf/Name.")
    private String what = "";

    @Option(names = "--part", paramLabel = "P", description = "The part's id or Shelf/Name.")
    private Optional<String> part = Optional.empty();

    @Option(
            names = "--amount",
            paramLabel = "A",
            description = "How much of it shows, 0 to 100 %%; 100 where it is not told.")
    private double amount = 100;

    @Option(names = "--everywhere", description = "It shows everywhere alike, not where its mask says.")
    private boolean everywhere;

    @Option(
            names = "--by",
            paramLabel = "P",
            description = "The id or Shelf/Name of another part by whose mask it shows, rather than by its own.")
    private Optional<String> by = Optional.empty();

    @Option(names = "--without", paramLabel = "P", description = "Take this part out instead.")
    private Optional<String> without = Optional.empty();

    @Option(names = "--note", paramLabel = "N", description = "What is new in this version.")
    private Optional<String> note = Optional.empty();

    @Option(names = "--draft", description = "As a draft; scenes that follow the material keep the version they have.")
    private boolean draft;

    /** @param by the name of the part whose mask says where; null where that is its own, or none */
    record MixedIn(
            String name,
            String id,
            Double percent,
            boolean masked,
            @Nullable String by) {}

    /** @param version that was published; null where nothing was changed */
    record Result(String asset, String name, String version, List<MixedIn> parts) {}

    MixCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        if (part.isPresent() && without.isPresent()) {
            throw wrongCall("Give --part or --without, not both.");
        }
        if (by.isPresent() && (everywhere || part.isEmpty())) {
            throw wrongCall("--by goes with --part, and not with --everywhere.");
        }
        if (!(amount >= 0 && amount <= 100)) {
            throw wrongCall("--amount is a number of per cent, 0 to 100.");
        }
        Asset material = asset(what);
        MixParts mix = new MixParts(workbench.intake(), workbench.readers(), library());
        Optional<Change> change = part.<Change>map(
                        named -> new Change.In(asset(named), amount / 100, !everywhere, by.map(this::asset)))
                .or(() -> without.map(named -> new Change.Out(asset(named))));
        if (change.isEmpty()) {
            return result(material, null, mix);
        }
        String said = note.orElseGet(
                () -> part.map(named -> "mixed in " + asset(named).card().name())
                        .orElseGet(() -> "took out "
                                + asset(without.orElseThrow()).card().name()));
        NextVersion next = new NextVersion(material, draft ? VersionStatus.DRAFT : VersionStatus.READY, said);
        Published published = mix.publish(next, change.get(), output.progress());
        return result(published.asset(), published.version(), mix);
    }

    private static Result result(Asset material, @Nullable String version, MixParts mix) {
        List<MixedIn> parts = mix.parts(material).stream()
                .map(each -> new MixedIn(
                        each.asset().map(asset -> asset.card().name()).orElse(each.name()),
                        each.asset().map(asset -> asset.card().id()).orElse(""),
                        each.amount().map(share -> 100 * share).orElse(null),
                        each.masked(),
                        each.by()
                                .map(mask -> mask.asset()
                                        .map(asset -> asset.card().name())
                                        .orElse(mask.name()))
                                .orElse(null)))
                .toList();
        return new Result(material.card().id(), material.card().name(), version, parts);
    }

    @Override
    void tell(Result result) {
        output.line("%s%s", result.name(), result.version() == null ? "" : " " + result.version());
        if (result.parts().isEmpty()) {
            output.line("  nothing is mixed in");
        }
        for (MixedIn each : result.parts()) {
            output.line(
                    "  %s%s%s",
                    each.name(),
                    each.percent() == null ? "" : ", " + Math.round(each.percent()) + " %",
                    each.by() != null
                            ? " where the mask of " + each.by() + " says"
                            : each.masked() ? " where its mask says" : "");
        }
    }
}
