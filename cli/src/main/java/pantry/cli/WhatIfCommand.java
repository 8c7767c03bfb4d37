package pantry.cli;

import java.util.List;
import java.util.Locale;
import pantry.base.math.Box3;
import pantry.model.Weight;
import pantry.project.WhatIf;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Parameters;

@Command(
        name = "what-if",
        description = {
            "Tell what would become of the files that follow an asset if a version of it were the ready one.",
            "Each is composed with the change in memory; nothing is written."
        })
final class WhatIfCommand extends ReachCommand<WhatIfCommand.Result> {
    @Parameters(
            paramLabel = "ASSET[@V]",
            description = "An asset and the version that would be ready; its newest one otherwise.")
    private String named = "";

    /**
     * @param kind override or choice
     * @param detail the variant set and variant of a choice
     * @param likely the prims that it may be about from then on
     */
    record Lost(String kind, String path, String detail, List<String> likely) {}

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
            String problem) {
        static Scene of(WhatIf.Effect effect) {
            return new Scene(
                    effect.file().toString(),
                    effect.placements(),
                    effect.lost().stream()
                            .map(lost -> new Lost(
                                    lost.kind().name().toLowerCase(Locale.ROOT),
                                    lost.path().toString(),
                                    lost.detail(),
                                    lost.likely().stream().map(Object::toString).toList()))
                            .toList(),
                    effect.before(),
                    effect.after(),
                    Bounds.of(effect.boundsBefore()),
                    Bounds.of(effect.boundsAfter()),
                    effect.problem());
        }
    }

    record Result(String asset, String name, String version, List<Scene> scenes) {}

    WhatIfCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        Named asked = named(named);
        String version = asked.version().or(() -> asked.asset().newest()).orElseThrow();
        WhatIf.Ripple ripple = WhatIf.ready(reach(), asked.asset(), version, output.progress());
        return new Result(
                asked.asset().card().id(),
                asked.asset().card().name(),
                version,
                ripple.effects().stream().map(Scene::of).toList());
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
            if (!scene.problem().isEmpty()) {
                output.say("pantry: " + scene.problem());
            }
        }
        long placements = result.scenes().stream().mapToLong(Scene::placements).sum();
        int lost =
                result.scenes().stream().mapToInt(scene -> scene.lost().size()).sum();
        output.line(
                result.scenes().isEmpty()
                        ? "nothing changes: no file follows %s to another version"
                        : "if %s %s were ready: %,d scenes, %,d placements, %,d overrides or choices lose their target",
                result.name(),
                result.version(),
                result.scenes().size(),
                placements,
                lost);
    }
}
