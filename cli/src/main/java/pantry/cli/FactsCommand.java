package pantry.cli;

import com.fasterxml.jackson.annotation.JsonInclude;
import com.fasterxml.jackson.annotation.JsonUnwrapped;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import pantry.base.math.Vec3;
import pantry.exchange.format.Imported;
import pantry.library.Asset;
import pantry.model.AttachedData;
import pantry.model.Facts;
import pantry.model.Posing;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(name = "facts", description = "Measure a file, or tell what was measured of an asset.")
final class FactsCommand extends PantryCommand<FactsCommand.Told> {
    @Parameters(paramLabel = "FILE|ASSET", description = "A file; or, with --library, an asset's id or Shelf/Name.")
    private String what = "";

    @Option(names = "--library", paramLabel = "L", description = "The library to look for the asset in.")
    private Optional<Path> library = Optional.empty();

    @Option(
            names = "--reach",
            description = "Tell also how much room it takes over all its motions; this looks at each of them.")
    private boolean withReach;

    @Option(
            names = "--attached",
            description =
                    "Tell also what an asset carries and is not drawn: physics, scripts, sounds and data, as text.")
    private boolean withAttached;

    /**
     * What is told of a file or asset.
     *
     * @param attached what it carries and is not drawn, where that was asked for
     * @param reach the box over all motions, where that was asked for and anything moves
     */
    record Told(
            @JsonUnwrapped Facts facts,
            @JsonInclude(JsonInclude.Include.NON_ABSENT) Optional<Facts.Bounds> reach,
            @JsonInclude(JsonInclude.Include.NON_ABSENT) Optional<List<AttachedData>> attached) {}

    FactsCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    void tell(Told told) {
        Facts facts = told.facts();
        Vec3 size = facts.bounds().size();
        String unit = facts.unit() == 1 ? "m" : "units";
        output.line("%s", facts.file());
        output.line(
                "  triangles   %,d  (polygons %,d, points %,d)", facts.triangles(), facts.polygons(), facts.vertices());
        output.line(
                "  meshes      %d, connected parts %d, %s",
                facts.meshes(), facts.parts(), facts.closed() ? "closed" : "open");
        output.line("  size        %.4g × %.4g × %.4g %s", size.x(), size.y(), size.z(), unit);
        output.line("  area        %.6g %s²", facts.area(), unit);
        if (facts.closed()) {
            output.line("  volume      %.6g %s³", facts.volume(), unit);
        }
        if (!facts.strands().isEmpty()) {
            output.line("  shown are   %s", String.join(", ", facts.strands()));
        }
        output.line("  unit        %s", facts.unit() == 0 ? "not stated" : facts.unit() + " m");
        output.line(
                "  materials   %s",
                facts.materials().isEmpty()
                        ? "none"
                        : facts.materials().stream()
                                .map(Facts.MaterialFact::words)
                                .collect(Collectors.joining(", ")));
        for (Facts.TextureFact texture : facts.textures()) {
            output.line("  texture     %s%s", texture.name(), texture.found() ? "" : "  MISSING");
        }
        if (facts.bones() > 0) {
            output.line("  bones       %d", facts.bones());
        }
        for (Facts.MotionFact motion : facts.motions()) {
            output.line("  motion      %s, %.3g s, %d keys", motion.name(), motion.seconds(), motion.keys());
        }
        told.reach()
                .map(Facts.Bounds::size)
                .ifPresent(reach ->
                        output.line("  in motion   %.4g × %.4g × %.4g %s", reach.x(), reach.y(), reach.z(), unit));
        if (!facts.shapes().isEmpty()) {
            output.line("  shapes      %s", String.join(", ", facts.shapes()));
        }
        if (!facts.foreign().isEmpty()) {
            output.line("  foreign     %s", String.join(", ", facts.foreign()));
        }
        told.attached()
                .orElse(List.of())
                .forEach(each -> output.line(
                        "  %-10s  %s, %s  %s", each.kind().word(), each.object(), each.name(), each.text()));
        output.line("  lights %d, cameras %d, hidden %d", facts.lights(), facts.cameras(), facts.hidden());
    }

    @Override
    Told work() {
        Path file = Path.of(what);
        if (library.isPresent() && !Files.exists(file)) {
            Asset asset = workbench.openLibrary(library.get()).find(what);
            String version = asset.shown().orElseThrow();
            return new Told(
                    asset.facts(version),
                    withReach ? reach(read(asset.entryLayer(version))) : Optional.empty(),
                    withAttached
                            ? Optional.of(
                                    workbench.preview(asset, version).unseen().attached())
                            : Optional.empty());
        }
        if (withAttached) {
            throw wrongCall("--attached is of an asset; name its --library.");
        }
        Imported read = read(file);
        return new Told(read.facts(), withReach ? reach(read) : Optional.empty(), Optional.empty());
    }

    private Imported read(Path file) {
        return workbench.intake().read(file, output.progress());
    }

    private static Optional<Facts.Bounds> reach(Imported read) {
        return Posing.of(read.model()).map(posing -> Facts.Bounds.of(posing.reach()));
    }
}
