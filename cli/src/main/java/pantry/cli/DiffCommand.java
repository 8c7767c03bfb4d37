package pantry.cli;

import java.util.Locale;
import java.util.Optional;
import pantry.compare.Comparison;
import pantry.library.Asset;
import pantry.model.Facts;
import pantry.usecase.CompareVersions;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Parameters;

@Command(name = "diff", description = "Compare two versions of an asset.")
final class DiffCommand extends LibraryCommand<DiffCommand.Result> {
    @Parameters(index = "0", paramLabel = "ASSET", description = "The asset's id or Shelf/Name.")
    private String what = "";

    @Parameters(index = "1", arity = "0..1", paramLabel = "V", description = "The earlier version; the last but one.")
    private Optional<String> before = Optional.empty();

    @Parameters(index = "2", arity = "0..1", paramLabel = "V", description = "The later version; the newest.")
    private Optional<String> after = Optional.empty();

    record Result(String asset, String before, String after, boolean same, Comparison differences) {}

    DiffCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        Asset asset = asset(what);
        int count = asset.versions().size();
        if (before.isEmpty() && count < 2) {
            throw wrongCall(asset.card().name() + " has only one version; there is nothing to compare.");
        }
        String from = before.orElseGet(() -> asset.versions().get(count - 2));
        String to = after.or(asset::newest).orElseThrow();
        for (String version : new String[] {from, to}) {
            if (!asset.versions().contains(version)) {
                throw wrongCall(asset.card().name() + " has no version " + version + "; it has "
                        + String.join(", ", asset.versions()) + ".");
            }
        }
        Comparison differences = new CompareVersions(workbench.readers()).run(asset, from, to, output.progress());
        return new Result(asset.card().name(), from, to, differences.same(), differences);
    }

    @Override
    void tell(Result result) {
        Comparison all = result.differences();
        output.line("%s %s → %s", result.asset(), result.before(), result.after());
        output.line(
                "  triangles  %,d → %,d",
                all.triangles().before(), all.triangles().after());
        output.line(
                "  size       %s → %s",
                size(all.bounds().before()), size(all.bounds().after()));
        output.line("  surfaces   at most %.4g m apart (to %.2g m)", all.distance(), all.distanceStep());
        for (Comparison.ObjectChange change : all.objects()) {
            String words = change.what().stream()
                    .map(Comparison.ChangeKind::word)
                    .reduce((a, b) -> a + ", " + b)
                    .orElse("");
            String path = change.before().isEmpty()
                            || change.after().isEmpty()
                            || change.before().equals(change.after())
                    ? change.path()
                    : change.before() + " → " + change.after();
            output.line("  object     %s: %s  %s", path, words, change.detail());
        }
        all.materials().forEach(each -> named("material", each));
        all.textures().forEach(each -> named("texture", each));
        all.variants().forEach(each -> named("variant", each));
        all.motions().forEach(each -> named("moves", each));
        if (result.same()) {
            output.line("  nothing differs");
        }
    }

    private void named(String kind, Comparison.Named change) {
        output.line(
                "  %-10s %s: %s",
                kind, change.name(), change.detail().isEmpty() ? change.what().word() : change.detail());
    }

    private static String size(Facts.Bounds bounds) {
        return String.format(
                Locale.ROOT,
                "%.4g × %.4g × %.4g m",
                bounds.size().x(),
                bounds.size().y(),
                bounds.size().z());
    }
}
