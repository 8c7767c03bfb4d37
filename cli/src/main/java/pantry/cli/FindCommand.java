package pantry.cli;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import pantry.base.PantryException;
import pantry.catalogue.Catalogue;
import pantry.catalogue.Finder;
import pantry.catalogue.Found;
import pantry.catalogue.IndexedAsset;
import pantry.catalogue.Order;
import pantry.catalogue.Search;
import pantry.catalogue.SearchText;
import pantry.library.AssetKind;
import pantry.library.Library;
import pantry.library.LibraryException;
import pantry.library.Shelf;
import pantry.model.ShapeDescriptor;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "find",
        description = {
            "Find assets by the beginnings of words in their names, tags, notes, materials, parts and shelves.",
            "A query may hold \"quoted phrases\", -words that must not be there, and facts such as kind:model,"
                    + " tag:sensor, shelf:Masts, triangles:<5000, height:1..3m, status:ready, licence:CC0, uses:panel,"
                    + " colour:red, changed:2026-03."
        })
final class FindCommand extends PantryCommand<FindCommand.Result> {
    @Parameters(arity = "0..*", paramLabel = "QUERY", description = "Words and facts; all of them must match.")
    private List<String> words = new ArrayList<>();

    @Option(names = "--library", required = true, paramLabel = "L", description = "A library; may be given again.")
    private List<Path> folders = new ArrayList<>();

    @Option(names = "--kind", paramLabel = "K", description = "Only this kind: ${COMPLETION-CANDIDATES}.")
    private Optional<AssetKind> kind = Optional.empty();

    @Option(names = "--shelf", paramLabel = "S", description = "Only this shelf and those below it.")
    private String shelf = "";

    @Option(names = "--tag", paramLabel = "T", description = "Only with this tag; may be given again.")
    private List<String> tags = new ArrayList<>();

    @Option(names = "--like", paramLabel = "ASSET", description = "Of nearly the shape of this one, the likest first.")
    private Optional<String> like = Optional.empty();

    @Option(names = "--sort", paramLabel = "BY", description = "best (usual), name, date, triangles, size or use.")
    private Order order = Order.BEST;

    @Option(names = "--limit", paramLabel = "N", description = "At most so many (${DEFAULT-VALUE}).")
    private int limit = 100;

    record Result(
            int count,
            List<IndexedAsset> items,
            Map<String, String> reasons,
            Map<String, List<Found.Facet>> facets,
            List<String> notUnderstood) {}

    FindCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        Search search = SearchText.parse(String.join(" ", words)).onShelf(Shelf.path(shelf));
        if (!search.complaints().isEmpty()) {
            throw wrongCall(String.join("; ", search.complaints()));
        }
        Catalogue catalogue = workbench.catalogue();
        List<Library> libraries = new ArrayList<>();
        Set<String> ids = new LinkedHashSet<>();
        for (Path folder : folders) {
            Library library = workbench.openLibrary(folder);
            if (!ids.add(library.info().id())) {
                throw new LibraryException(
                        library.root(),
                        "has the same id as another library that is searched: " + "it is a copy of that one");
            }
            catalogue.refresh(library, output.progress());
            libraries.add(library);
        }
        Finder finder = catalogue.finder(libraries);
        search = kind.isPresent() ? search.ofKind(kind.get().word()) : search;
        for (String tag : tags) {
            search = search.tagged(tag);
        }
        Found found = finder.find(search, order);
        List<IndexedAsset> items = like.isPresent() ? alike(finder, found) : found.items();
        List<IndexedAsset> shown = items.stream().limit(Math.max(1, limit)).toList();
        Map<String, String> reasons = new java.util.LinkedHashMap<>();
        for (IndexedAsset item : shown) {
            String reason = Finder.reason(search, item);
            if (!reason.isEmpty()) {
                reasons.put(item.id(), reason);
            }
        }
        found.complaints().forEach(complaint -> output.say("pantry find: " + complaint));
        return new Result(items.size(), shown, reasons, found.facets(), found.complaints());
    }

    private List<IndexedAsset> alike(Finder finder, Found found) {
        String wanted = like.orElseThrow();
        IndexedAsset one = finder.items().stream()
                .filter(item -> item.id().equals(wanted)
                        || (item.shelf() + "/" + item.name()).equalsIgnoreCase(wanted)
                        || item.name().equalsIgnoreCase(wanted))
                .findFirst()
                .orElseThrow(() -> new PantryException("there is no asset \"" + wanted + "\" to compare with"));
        ShapeDescriptor shape = ShapeDescriptor.ofCode(one.shape())
                .orElseThrow(() -> new PantryException(one.name() + " has no shape to compare with"));
        Set<IndexedAsset> among = new LinkedHashSet<>(found.items());
        return finder.alike(shape, 0.5, Integer.MAX_VALUE).stream()
                .map(each -> each.item())
                .filter(item -> !item.equals(one) && among.contains(item))
                .toList();
    }

    @Override
    void tell(Result result) {
        for (IndexedAsset item : result.items()) {
            String reason = result.reasons().getOrDefault(item.id(), "");
            output.line(
                    "%-36s %-28s %-8s %-5s %,10d triangles  %s%s",
                    item.name(),
                    item.shelf(),
                    item.kind(),
                    item.version(),
                    item.triangles(),
                    item.id(),
                    reason.isEmpty() ? "" : "  (" + reason + ")");
        }
        output.line("%d found", result.count());
    }
}
