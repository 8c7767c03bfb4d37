package pantry.cli;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import pantry.catalogue.Catalogue;
import pantry.catalogue.Hits;
import pantry.catalogue.Item;
import pantry.catalogue.Query;
import pantry.library.AssetKind;
import pantry.library.Library;
import pantry.library.Shelf;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(name = "find", description = "Find assets by the beginnings of words in their names, tags, notes and shelves.")
final class FindCommand extends PantryCommand<Hits> {
    @Parameters(arity = "0..*", paramLabel = "QUERY", description = "Words; all of them must match.")
    private List<String> words = new ArrayList<>();

    @Option(names = "--library", required = true, paramLabel = "L", description = "A library; may be given again.")
    private List<Path> libraries = new ArrayList<>();

    @Option(names = "--kind", paramLabel = "K", description = "Only this kind: ${COMPLETION-CANDIDATES}.")
    private Optional<AssetKind> kind = Optional.empty();

    @Option(names = "--shelf", paramLabel = "S", description = "Only this shelf and those below it.")
    private String shelf = "";

    @Option(names = "--tag", paramLabel = "T", description = "Only with this tag; may be given again.")
    private List<String> tags = new ArrayList<>();

    @Option(names = "--limit", paramLabel = "N", description = "At most so many (${DEFAULT-VALUE}).")
    private int limit = 100;

    FindCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Hits work() {
        Catalogue catalogue = workbench.catalogue();
        List<Path> roots = new ArrayList<>();
        for (Path folder : libraries) {
            Library library = workbench.openLibrary(folder);
            catalogue.refresh(library, output.progress());
            roots.add(library.root());
        }
        return catalogue.find(
                new Query(roots, String.join(" ", words), kind, Shelf.path(shelf), tags, Math.max(1, limit)));
    }

    @Override
    void tell(Hits hits) {
        for (Item item : hits.items()) {
            output.line(
                    "%-36s %-28s %-8s %-5s %,10d triangles  %s",
                    item.name(), item.shelf(), item.kind(), item.version(), item.triangles(), item.id());
        }
        output.line("%d found", hits.count());
    }
}
