package pantry.cli;

import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import pantry.base.PantryException;
import pantry.base.math.Box3;
import pantry.library.Asset;
import pantry.model.Weight;
import pantry.project.Imagined;
import pantry.project.Overlap;
import pantry.project.Reach;
import pantry.project.RippleReport;
import pantry.project.WhatIf;
import pantry.workbench.Workbench;
import picocli.CommandLine.ArgGroup;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "what-if",
        description = {
            "Tell what would become of the files that use an asset if a version of it were the ready one, or something else"
                    + " were done about it.",
            "Each is composed with the change in memory; nothing is written, but for a report."
        })
final class WhatIfCommand extends ReachCommand<WhatIfCommand.Result> {
    @Parameters(
            paramLabel = "ASSET[@V]",
            description = "An asset and the version that would be ready; its newest one otherwise.")
    private String named = "";

    @ArgGroup
    private @Nullable Instead instead;

    @Option(
            names = "--out",
            paramLabel = "F",
            description = "Write a report as well: F.html, with pictures of each scene before and after, or F.csv.")
    private Optional<Path> out = Optional.empty();

    /** What would be done, where it is not making ready. */
    static final class Instead {
        @Option(names = "--retired", required = true, description = "What if the version were retired?")
        private boolean retired;

        @Option(names = "--removed", required = true, description = "What if the asset were not there any more?")
        private boolean removed;

        @Option(
                names = "--swapped-for",
                required = true,
                paramLabel = "ASSET",
                description = "What if this one were used instead?")
        private Optional<String> other = Optional.empty();
    }

    /**
     * @param kind override or choice
     * @param detail the variant set and variant of a choice
     * @param likely the prims that it may be about from then on
     */
    record Lost(String kind, String file, String path, String detail, List<String> likely) {}

    record Bounds(double[] min, double[] max) {
        static Bounds of(Box3 box) {
            return new Bounds(
                    new double[] {box.min().x(), box.min().y(), box.min().z()},
                    new double[] {box.max().x(), box.max().y(), box.max().z()});
        }
    }

    record Scene(
            String file,
            long placements,
            List<Lost> lost,
            Weight before,
            Weight after,
            Bounds boundsBefore,
            Bounds boundsAfter,
            List<Overlap> overlaps,
            String problem) {
        static Scene of(WhatIf.Effect effect) {
            return new Scene(
                    effect.file().toString(),
                    effect.placements(),
                    effect.lost().stream()
                            .map(lost -> new Lost(
                                    lost.kind().name().toLowerCase(Locale.ROOT),
                                    lost.file().toString(),
                                    lost.path().toString(),
                                    lost.detail(),
                                    lost.likely().stream().map(Object::toString).toList()))
                            .toList(),
                    effect.before(),
                    effect.after(),
                    Bounds.of(effect.boundsBefore()),
                    Bounds.of(effect.boundsAfter()),
                    effect.overlaps(),
                    effect.problem());
        }
    }

    /** @param change in words, as what comes after "if" */
    record Result(String asset, String name, String version, String change, List<Scene> scenes) {}

    WhatIfCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        Named asked = named(named);
        Imagined change = change(asked);
        Reach reach = reach();
        WhatIf.Ripple ripple = WhatIf.of(reach, change, output.progress());
        out.ifPresent(file -> new RippleReport(reach, ripple).write(file, workbench.renderCache(), output.progress()));
        return new Result(
                asked.asset().card().id(),
                asked.asset().card().name(),
                change.version(),
                change.words(),
                ripple.effects().stream().map(Scene::of).toList());
    }

    private Imagined change(Named asked) {
        Asset asset = asked.asset();
        Instead then = instead;
        if (then == null || then.retired) {
            String version = asked.version()
                    .or(() -> then == null ? asset.newest() : asset.ready())
                    .orElseThrow(() -> new PantryException(asset.folder(), "no version is ready"));
            return then == null ? Imagined.ready(asset, version) : Imagined.retired(asset, version);
        }
        return then.other.map(name -> Imagined.swapped(asset, asset(name))).orElseGet(() -> Imagined.removed(asset));
    }

    @Override
    void tell(Result result) {
        for (Scene scene : result.scenes()) {
            output.line(
                    "%s: %,d placements, %,d triangles drawn → %,d",
                    scene.file(),
                    scene.placements(),
                    scene.before().trianglesDrawn(),
                    scene.after().trianglesDrawn());
            scene.lost()
                    .forEach(lost -> output.line(
                            "    %s loses its target: %s %s%s",
                            lost.kind(),
                            lost.path(),
                            lost.detail(),
                            lost.likely().isEmpty() ? "" : "  now perhaps " + String.join(", ", lost.likely())));
            scene.overlaps()
                    .forEach(overlap -> output.line(
                            "    %s would stand %.3f m deep in %s", overlap.thing(), overlap.depth(), overlap.other()));
            if (!scene.problem().isEmpty()) {
                output.say("pantry: " + scene.problem());
            }
        }
        long placements = result.scenes().stream().mapToLong(Scene::placements).sum();
        int lost =
                result.scenes().stream().mapToInt(scene -> scene.lost().size()).sum();
        int overlaps = result.scenes().stream()
                .mapToInt(scene -> scene.overlaps().size())
                .sum();
        output.line(
                result.scenes().isEmpty()
                        ? "if %s, nothing changes: no file would show something else"
                        : "if %s: %,d scenes, %,d placements, %,d overrides or choices lose their target,"
                                + " %,d things newly stand in others",
                result.change(),
                result.scenes().size(),
                placements,
                lost,
                overlaps);
    }
}
