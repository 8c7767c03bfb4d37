package pantry.cli;

import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import pantry.library.Asset;
import pantry.library.LibraryException;
import pantry.library.Published;
import pantry.library.VersionStatus;
import pantry.model.PhysicalMaterial;
import pantry.usecase.ChangePhysics;
import pantry.usecase.NextVersion;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "physics",
        description =
                "Tell an asset's friction, bounce and density, or change them, as its next version (UsdPhysics). A number, or none.")
final class PhysicsCommand extends LibraryCommand<PhysicsCommand.Result> {
    private static final String NONE = "none";

    @Parameters(index = "0", paramLabel = "ASSET", description = "The asset's id or Shelf/Name.")
    private String what = "";

    @Option(
            names = "--material",
            paramLabel = "M",
            description = "Which of its physical materials, where it has several.")
    private Optional<String> material = Optional.empty();

    @Option(names = "--static-friction", paramLabel = "F", description = "Friction of what rests, 0 to 10.")
    private Optional<String> staticFriction = Optional.empty();

    @Option(names = "--dynamic-friction", paramLabel = "F", description = "Friction of what slides, 0 to 10.")
    private Optional<String> dynamicFriction = Optional.empty();

    @Option(names = "--restitution", paramLabel = "R", description = "How much of its speed a bounce leaves, 0 to 1.")
    private Optional<String> restitution = Optional.empty();

    @Option(names = "--density", paramLabel = "D", description = "Kilograms per cubic metre.")
    private Optional<String> density = Optional.empty();

    @Option(names = "--note", paramLabel = "N", description = "What is new in this version.")
    private Optional<String> note = Optional.empty();

    @Option(names = "--draft", description = "As a draft; scenes that follow the asset keep the version they have.")
    private boolean draft;

    /** @param path of the prim that says it; null where nothing does */
    record Told(
            @Nullable String path,
            @Nullable Double staticFriction,
            @Nullable Double dynamicFriction,
            @Nullable Double restitution,
            @Nullable Double density) {
        static Told of(PhysicalMaterial material) {
            return new Told(
                    material.path().map(Object::toString).orElse(null),
                    boxed(material.staticFriction()),
                    boxed(material.dynamicFriction()),
                    boxed(material.restitution()),
                    boxed(material.density()));
        }

        private static @Nullable Double boxed(OptionalDouble number) {
            return number.isPresent() ? number.getAsDouble() : null;
        }
    }

    /** @param version that was published; null where nothing was changed */
    record Result(String asset, String name, @Nullable String version, List<Told> materials) {}

    PhysicsCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        Asset asset = asset(what);
        ChangePhysics physics = new ChangePhysics(workbench.readers(), library());
        String shown = asset.shown().orElseThrow(() -> new LibraryException(asset.folder(), "has no version"));
        List<PhysicalMaterial> known = physics.of(asset, shown);
        if (staticFriction
                .or(() -> dynamicFriction)
                .or(() -> restitution)
                .or(() -> density)
                .isEmpty()) {
            return result(asset, null, known);
        }
        PhysicalMaterial before = chosen(known);
        PhysicalMaterial wanted = new PhysicalMaterial(
                before.path(),
                number("--static-friction", staticFriction, before.staticFriction()),
                number("--dynamic-friction", dynamicFriction, before.dynamicFriction()),
                number("--restitution", restitution, before.restitution()),
                number("--density", density, before.density()));
        VersionStatus status = draft ? VersionStatus.DRAFT : VersionStatus.READY;
        Published published =
                physics.publish(new NextVersion(asset, status, note.orElse(wanted.words())), wanted, output.progress());
        return result(published.asset(), published.version(), physics.of(published.asset(), published.version()));
    }

    private PhysicalMaterial chosen(List<PhysicalMaterial> known) {
        if (material.isEmpty() && known.size() == 1) {
            return known.getFirst();
        }
        return known.stream()
                .filter(each -> material.isPresent() && material.get().equals(each.name()))
                .findFirst()
                .orElseThrow(() -> wrongCall("Say by --material which one: "
                        + known.stream().map(PhysicalMaterial::name).collect(Collectors.joining(", ")) + "."));
    }

    private OptionalDouble number(String option, Optional<String> said, OptionalDouble before) {
        if (said.isEmpty()) {
            return before;
        }
        try {
            return said.get().equals(NONE) ? OptionalDouble.empty() : OptionalDouble.of(Double.parseDouble(said.get()));
        } catch (NumberFormatException e) {
            throw wrongCall(option + " is a number, or none; \"" + said.get() + "\" is neither.");
        }
    }

    private static Result result(Asset asset, @Nullable String version, List<PhysicalMaterial> materials) {
        return new Result(
                asset.card().id(),
                asset.card().name(),
                version,
                materials.stream()
                        .filter(each -> each.path().isPresent())
                        .map(Told::of)
                        .toList());
    }

    @Override
    void tell(Result result) {
        output.line("%s%s", result.name(), result.version() == null ? "" : " " + result.version());
        if (result.materials().isEmpty()) {
            output.line("  nothing is said of its friction, bounce and density");
        }
        for (Told each : result.materials()) {
            output.line("  %s", each.path());
            tell("friction at rest", each.staticFriction(), "");
            tell("friction when sliding", each.dynamicFriction(), "");
            tell("bounce", each.restitution(), "");
            tell("density", each.density(), " kg/m³");
        }
    }

    private void tell(String what, @Nullable Double number, String unit) {
        output.line("    %-22s %s", what, number == null ? "not said" : PhysicalMaterial.plain(number) + unit);
    }
}
