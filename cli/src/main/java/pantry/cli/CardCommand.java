package pantry.cli;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.library.Card;
import pantry.library.Library;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(name = "card", description = "Tell the cards of assets, or change facts on all of them at once.")
final class CardCommand extends LibraryCommand<CardCommand.Result> {
    @Parameters(arity = "1..*", paramLabel = "ASSET", description = "An asset's id or Shelf/Name.")
    private List<String> what = new ArrayList<>();

    @Option(names = "--name", paramLabel = "N", description = "A new name, for a single asset.")
    private Optional<String> name = Optional.empty();

    @Option(names = "--kind", paramLabel = "K", description = "${COMPLETION-CANDIDATES}.")
    private Optional<AssetKind> kind = Optional.empty();

    @Option(names = "--notes", paramLabel = "TEXT", description = "Notes.")
    private Optional<String> notes = Optional.empty();

    @Option(names = "--licence", paramLabel = "ID", description = "An SPDX licence expression, such as CC-BY-4.0.")
    private Optional<String> licence = Optional.empty();

    @Option(names = "--credit", paramLabel = "WHO", description = "Who made it.")
    private Optional<String> credit = Optional.empty();

    @Option(names = "--source", paramLabel = "TEXT", description = "Where it comes from.")
    private Optional<String> source = Optional.empty();

    @Option(
            names = "--colourable",
            paramLabel = "MATERIAL",
            description = "A material whose colour may be chosen; may be given again.")
    private List<String> colourable = new ArrayList<>();

    @Option(
            names = "--field",
            paramLabel = "NAME=VALUE",
            description = "One of the house's own facts; nothing behind the sign removes it.")
    private Map<String, String> fields = new TreeMap<>();

    record Result(List<Card> cards, int changed) {}

    CardCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        if (name.isPresent() && what.size() > 1) {
            throw wrongCall("--name is for a single asset; there are " + what.size() + ".");
        }
        List<Asset> named = assets(what);
        List<Library.Edited> edited = library().edit(named, this::changed, output.progress());
        return new Result(
                named.stream().map(asset -> library().current(asset).card()).toList(), edited.size());
    }

    private Card changed(Card before) {
        Card card = before;
        card = name.map(card::withName).orElse(card);
        card = kind.map(card::withKind).orElse(card);
        card = notes.map(card::withNotes).orElse(card);
        card = licence.map(card::withLicence).orElse(card);
        card = credit.map(card::withCredit).orElse(card);
        card = source.map(card::withSource).orElse(card);
        card = colourable.isEmpty() ? card : card.withColourable(colourable);
        for (Map.Entry<String, String> field : fields.entrySet()) {
            card = card.withField(field.getKey(), field.getValue());
        }
        return card;
    }

    @Override
    void tell(Result result) {
        for (Card card : result.cards()) {
            output.line("%s (%s)", card.name(), card.kind().word());
            output.line("  id          %s", card.id());
            output.line("  tags        %s", String.join(", ", card.tags()));
            output.line("  licence     %s", card.licence().isEmpty() ? "none" : card.licence());
            output.line("  credit      %s", card.credit());
            output.line("  source      %s", card.source());
            output.line("  notes       %s", card.notes());
            output.line("  colourable  %s", String.join(", ", card.colourable()));
            card.fields().forEach((field, value) -> output.line("  %-11s %s", field, value));
        }
    }
}
