package pantry.cli;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import pantry.base.PantryException;
import pantry.library.Asset;
import pantry.library.Card;
import pantry.library.Library;
import pantry.library.Tags;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "tag",
        description = "Tag assets, or rename a tag on all that have it; without an asset, tell all tags.")
final class TagCommand extends LibraryCommand<TagCommand.Result> {
    @Parameters(arity = "0..*", paramLabel = "ASSET", description = "An asset's id or Shelf/Name.")
    private List<String> what = new ArrayList<>();

    @Option(names = "--add", paramLabel = "T", description = "A tag to add; may be given again.")
    private List<String> add = new ArrayList<>();

    @Option(names = "--remove", paramLabel = "T", description = "A tag to take off; may be given again.")
    private List<String> remove = new ArrayList<>();

    @Option(
            names = "--rename",
            paramLabel = "OLD=NEW",
            description = "Rename a tag on all assets; where the new one is there already, the two become one.")
    private Map<String, String> rename = new TreeMap<>();

    record TagCount(String tag, int count) {}

    record Result(int changed, List<TagCount> tags) {}

    TagCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        if (what.isEmpty() && !(add.isEmpty() && remove.isEmpty())) {
            throw wrongCall("Say which assets to tag.");
        }
        int changed = 0;
        if (!what.isEmpty()) {
            changed = library()
                    .edit(assets(what), this::tagged, output.progress())
                    .size();
        }
        Library library = library();
        for (Map.Entry<String, String> each : rename.entrySet()) {
            List<Asset> having = library.assets().stream()
                    .filter(asset -> asset.card().tags().contains(each.getKey()))
                    .toList();
            if (having.isEmpty()) {
                throw new PantryException(library.root(), "no asset has the tag " + each.getKey());
            }
            changed += library.edit(having, card -> card.retagged(each.getKey(), each.getValue()), output.progress())
                    .size();
        }
        TreeMap<String, Integer> counts = new TreeMap<>(String.CASE_INSENSITIVE_ORDER);
        library.assets().forEach(asset -> asset.card().tags().forEach(tag -> counts.merge(tag, 1, Integer::sum)));
        return new Result(
                changed,
                counts.entrySet().stream()
                        .map(entry -> new TagCount(entry.getKey(), entry.getValue()))
                        .toList());
    }

    private Card tagged(Card card) {
        Card tagged = card;
        for (String tag : Tags.given(add)) {
            tagged = tagged.tagged(tag);
        }
        for (String tag : remove) {
            tagged = tagged.untagged(tag.strip());
        }
        return tagged;
    }

    @Override
    void tell(Result result) {
        if (what.isEmpty() && rename.isEmpty()) {
            result.tags().forEach(tag -> output.line("%6d  %s", tag.count(), tag.tag()));
        } else {
            output.line("%s changed", Output.counted(result.changed(), "card"));
        }
    }
}
