package pantry.cli;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import pantry.intake.Carried;
import pantry.intake.CollisionShape;
import pantry.intake.LengthUnit;
import pantry.intake.PartsMode;
import pantry.intake.Pivot;
import pantry.intake.ProcessingOptions;
import pantry.intake.Slip;
import pantry.library.Licences;
import pantry.library.Tags;
import pantry.model.Axis;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Spec;

/** The choices of a slip, as options of a command. */
final class SlipOptions {
    @Option(names = "--unit", paramLabel = "U", description = "The unit of the file's numbers: mm, cm, m, in or ft.")
    private Optional<String> unit = Optional.empty();

    @Option(names = "--scale", paramLabel = "F", description = "Metres per unit of the file, as a number.")
    private Optional<Double> scale = Optional.empty();

    @Option(names = "--up", paramLabel = "Y|Z", description = "The axis that points up in the file.")
    private Optional<Axis> up = Optional.empty();

    @Option(
            names = "--parts",
            paramLabel = "P",
            description = "keep the hierarchy (usual), one mesh by-material, a single mesh, or apart: each connected"
                    + " part an object.")
    private Optional<String> parts = Optional.empty();

    @Option(
            names = "--pivot",
            paramLabel = "P",
            description = "keep the file's origin, or hold the asset by the middle of its base, or its centre.")
    private Optional<String> pivot = Optional.empty();

    @Option(names = "--tag", paramLabel = "T", description = "Tags, with commas between; may be given again.")
    private List<String> tags = new ArrayList<>();

    @Option(names = "--licence", paramLabel = "ID", description = "An SPDX licence expression, such as CC-BY-4.0.")
    private Optional<String> licence = Optional.empty();

    @Option(names = "--credit", paramLabel = "WHO", description = "Who made it.")
    private Optional<String> credit = Optional.empty();

    @Option(
            names = "--with",
            paramLabel = "WHAT",
            description = "Keep what is left out otherwise: lights, cameras, ground or sky; may be given again.")
    private List<String> with = new ArrayList<>();

    @Option(names = "--collision", paramLabel = "SHAPE", description = "Add a collision shape: box or hull.")
    private Optional<String> collision = Optional.empty();

    @Option(
            names = "--reduce",
            paramLabel = "SHARE",
            description = "Keep this share of the triangles, such as 0.25; the error is told.")
    private Optional<Double> reduce = Optional.empty();

    @Option(names = "--levels", description = "Add coarser levels of detail, as the variant set detail.")
    private boolean levels;

    @Option(names = "--allow-missing-textures", description = "Shelve also where textures are not found.")
    private boolean allowMissing;

    @Spec(Spec.Target.MIXEE)
    private CommandSpec command = CommandSpec.create();

    /**
     * Says what is wrong with the choices, before anything is read.
     *
     * @throws ParameterException where there is something
     */
    void check() {
        factor();
        mode();
        pivotChoice();
        kept();
        shape();
        if (reduce.isPresent() && !(reduce.get() > 0 && reduce.get() <= 1)) {
            throw wrongCall("--reduce must be above 0 and at most 1.");
        }
    }

    private ParameterException wrongCall(String message) {
        return new ParameterException(command.commandLine(), message);
    }

    /** The axis that was told. */
    Optional<Axis> up() {
        return up;
    }

    /** Metres per unit, where that was told. */
    Optional<Double> factor() {
        if (unit.isPresent() && scale.isPresent()) {
            throw wrongCall("Give --unit or --scale, not both.");
        }
        if (scale.isPresent() && !Slip.isScale(scale.get())) {
            throw wrongCall("--scale must be " + Slip.SCALES + ".");
        }
        return scale.or(() -> unit.map(written -> LengthUnit.of(written)
                .orElseThrow(() -> wrongCall("--unit " + written + " is not one of mm, cm, m, in, ft."))
                .metres()));
    }

    /** The value of an option that takes one of a few words. */
    private <E extends Enum<E>> E choice(String option, String written, E[] values) {
        return Arrays.stream(values)
                .filter(value -> word(value).equals(written.toLowerCase(Locale.ROOT)))
                .findFirst()
                .orElseThrow(() -> wrongCall(option + " " + written + " is not one of "
                        + Arrays.stream(values).map(SlipOptions::word).collect(Collectors.joining(", ")) + "."));
    }

    static String word(Enum<?> value) {
        return value.name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    private Optional<PartsMode> mode() {
        return parts.map(written -> choice("--parts", written, PartsMode.values()));
    }

    private Optional<Pivot> pivotChoice() {
        return pivot.map(written -> choice("--pivot", written, Pivot.values()));
    }

    private Optional<CollisionShape> shape() {
        return collision.map(written -> choice("--collision", written, CollisionShape.values()));
    }

    private Set<Carried.Kind> kept() {
        return with.stream()
                .map(written -> choice("--with", written, new Carried.Kind[] {
                    Carried.Kind.LIGHTS, Carried.Kind.CAMERAS, Carried.Kind.GROUND, Carried.Kind.SKY
                }))
                .collect(Collectors.toSet());
    }

    /** A suggested slip with all that was told. */
    Slip onSuggested(Slip suggested) {
        Slip slip = on(suggested);
        slip = factor().map(slip::withFactor).orElse(slip);
        return up().map(slip::withUp).orElse(slip);
    }

    /** A slip with what was told, beyond what is the arrival's own: its unit and its axis. */
    Slip on(Slip before) {
        Slip slip = before;
        slip = tags.isEmpty() ? slip : slip.withTags(Tags.given(tags));
        slip = slip.withCredit(licence.map(Licences::given).orElse(slip.licence()), credit.orElse(slip.credit()));
        slip = mode().map(slip::withParts).orElse(slip);
        slip = pivotChoice().map(slip::withPivot).orElse(slip);
        ProcessingOptions making = slip.making();
        for (Carried.Kind kind : kept()) {
            making = making.keeping(kind, true);
        }
        making = shape().map(making::withCollision).orElse(making);
        making = reduce.map(making::withShare).orElse(making);
        making = levels ? making.withLevels(true) : making;
        return slip.withMaking(making).withAllowMissing(slip.allowMissing() || allowMissing);
    }
}
