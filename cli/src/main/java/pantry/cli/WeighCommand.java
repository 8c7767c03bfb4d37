package pantry.cli;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import pantry.model.Weight;
import pantry.project.AssetWeights;
import pantry.project.Project;
import pantry.project.ProjectWeight;
import pantry.project.ProjectWeight.Amounts;
import pantry.project.ProjectWeight.Box;
import pantry.project.Reach;
import pantry.project.Savings;
import pantry.scene.Scene;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

@Command(
        name = "weigh",
        description = {
            "Tell what a scene weighs: triangles stored and drawn, placements, textures.",
            "With --project, what all scenes of projects weigh, what of that each asset is, and what would make them"
                    + " lighter."
        })
final class WeighCommand extends PantryCommand<WeighCommand.Weighed> {
    @Spec
    private CommandSpec spec = CommandSpec.create();

    @Parameters(arity = "0..1", paramLabel = "SCENE", description = "A USD file.")
    private Optional<Path> file = Optional.empty();

    @Option(
            names = "--library",
            paramLabel = "L",
            description = "With --project: a library that the projects use; may be given again.")
    private List<Path> libraries = new ArrayList<>();

    @Option(names = "--project", paramLabel = "P", description = "A project's folder; may be given again.")
    private List<Path> projects = new ArrayList<>();

    /** What is told. */
    sealed interface Weighed {}

    /** The fields of {@link Weight}. */
    record OfScene(
            long trianglesStored, long trianglesDrawn, int placements, int objects, long textureBytes, long fileBytes)
            implements Weighed {}

    /** @param parts of a project its scenes, of a scene the assets and files that it uses, of these what they are made of */
    record Part(String kind, String name, String path, String version, long count, Amounts amounts, List<Part> parts) {}

    /**
     * @param kind one of the names of {@link Savings.Kind}, in lower case
     * @param measure the field of the amounts that becomes less
     * @param share of all scenes together, 0 to 1
     */
    record Way(
            String kind,
            String asset,
            String name,
            String version,
            String measure,
            long saved,
            double share,
            List<String> scenes) {}

    record OfProjects(Amounts amounts, List<Part> projects, List<Way> savings) implements Weighed {}

    WeighCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Weighed work() {
        if (file.isPresent() == !projects.isEmpty()) {
            throw new ParameterException(spec.commandLine(), "Name either a scene or, with --project, projects");
        }
        return file.map(this::scene).orElseGet(this::projects);
    }

    private Weighed scene(Path of) {
        Scene scene = workbench.openScene(of);
        Weight weight = scene.weight(scene.model());
        return new OfScene(
                weight.trianglesStored(),
                weight.trianglesDrawn(),
                weight.placements(),
                weight.objects(),
                weight.textureBytes(),
                weight.fileBytes());
    }

    private Weighed projects() {
        Reach reach = ReachCommand.reach(
                workbench,
                ReachCommand.openLibraries(workbench, libraries),
                projects.stream().map(Project::open).toList(),
                output);
        AssetWeights weights = new AssetWeights();
        ProjectWeight weight = ProjectWeight.of(reach, weights, output.progress());
        return new OfProjects(
                weight.whole().amounts(),
                weight.whole().parts().stream().map(WeighCommand::part).toList(),
                Savings.of(weight, reach, weights, output.progress()).stream()
                        .map(WeighCommand::way)
                        .toList());
    }

    private static Part part(Box box) {
        return new Part(
                box.kind().name().toLowerCase(Locale.ROOT),
                box.name(),
                box.path().toString(),
                box.version(),
                box.count(),
                box.amounts(),
                box.parts().stream().map(WeighCommand::part).toList());
    }

    private static Way way(Savings.Saving saving) {
        return new Way(
                saving.kind().name().toLowerCase(Locale.ROOT).replace('_', '-'),
                saving.asset().card().id(),
                saving.asset().card().name(),
                saving.version(),
                saving.measure().name().toLowerCase(Locale.ROOT),
                saving.saved(),
                saving.share(),
                saving.scenes().stream().map(Path::toString).toList());
    }

    @Override
    void tell(Weighed weighed) {
        switch (weighed) {
            case OfScene scene -> {
                tell(new Amounts(
                        scene.trianglesStored(),
                        scene.trianglesDrawn(),
                        scene.placements(),
                        scene.textureBytes(),
                        scene.fileBytes()));
                output.line("objects          %,14d", scene.objects());
            }
            case OfProjects all -> {
                all.projects().stream()
                        .flatMap(project -> project.parts().stream())
                        .sorted(Comparator.comparingLong(
                                (Part scene) -> -scene.amounts().trianglesDrawn()))
                        .forEach(scene -> output.line(
                                "%,14d triangles drawn %,8d placements  %s",
                                scene.amounts().trianglesDrawn(),
                                scene.amounts().placements(),
                                scene.name()));
                tell(all.amounts());
                all.savings()
                        .forEach(way -> output.line(
                                "%5.1f %% less %-10s %s: %s",
                                100 * way.share(),
                                way.measure(),
                                way.name(),
                                way.kind().replace('-', ' ')));
            }
        }
    }

    private void tell(Amounts amounts) {
        output.line("triangles stored %,14d", amounts.trianglesStored());
        output.line("triangles drawn  %,14d", amounts.trianglesDrawn());
        output.line("placements       %,14d", amounts.placements());
        output.line("textures         %,14d bytes", amounts.textureBytes());
        output.line("files            %,14d bytes", amounts.fileBytes());
    }
}
