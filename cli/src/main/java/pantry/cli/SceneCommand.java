package pantry.cli;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import pantry.base.PantryException;
import pantry.base.math.Vec3;
import pantry.library.Asset;
import pantry.library.Library;
import pantry.scene.Scene;
import pantry.scene.Sections;
import pantry.usd.SdfPath;
import pantry.usd.Specifier;
import pantry.usd.schema.TransformComponents;
import pantry.workbench.Workbench;
import picocli.CommandLine.Option;

/**
 * A command that changes a scene and saves it.
 *
 * @param <R> the result, whose fields' names scripts rely on
 */
abstract class SceneCommand<R> extends PantryCommand<R> {
    @Option(names = "--library", paramLabel = "L", description = "The library to look for assets in.")
    private Optional<Path> library = Optional.empty();

    private @Nullable Library opened;

    /** Where something is placed. */
    static final class Place {
        @Option(names = "--at", paramLabel = "X,Y,Z", description = "Where it stands, metres.")
        private Optional<String> at = Optional.empty();

        @Option(names = "--turn", paramLabel = "X,Y,Z", description = "Turned about x, then y, then z, degrees.")
        private Optional<String> turn = Optional.empty();

        @Option(names = "--scale", paramLabel = "S", description = "One factor, or three as X,Y,Z.")
        private Optional<String> scale = Optional.empty();

        @Option(names = "--under", paramLabel = "PATH", description = "An existing prim to place it under.")
        private Optional<String> under = Optional.empty();

        @Option(names = "--name", paramLabel = "N", description = "Its name.")
        private Optional<String> name = Optional.empty();

        String name(String otherwise) {
            return name.orElse(otherwise);
        }

        Optional<SdfPath> under(SceneCommand<?> command, Scene scene) {
            return under.map(named -> command.path(scene, named));
        }

        TransformComponents placing(SceneCommand<?> command) {
            return new TransformComponents(
                    at.map(text -> command.triple("--at", text)).orElse(Vec3.ZERO),
                    turn.map(text -> command.triple("--turn", text)).orElse(Vec3.ZERO),
                    scale.map(text -> command.factors("--scale", text)).orElse(Vec3.ONE));
        }
    }

    SceneCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    Optional<Library> library() {
        if (opened == null && library.isPresent()) {
            opened = workbench.openLibrary(library.get());
        }
        return Optional.ofNullable(opened);
    }

    Asset asset(String named) {
        return library()
                .orElseThrow(() -> wrongCall("To find the asset " + named + ", say in which --library it is."))
                .find(named);
    }

    /** Saves a scene, unless it is a section that somebody else holds. */
    void save(Scene scene) {
        Sections.requireFree(scene.file(), workbench.who());
        scene.save();
    }

    /** The object that a person names by its path, or by its name where only one has it. */
    SdfPath path(Scene scene, String named) {
        if (named.startsWith("/")) {
            if (!SdfPath.isWellFormed(named)) {
                throw wrongCall(named + " is no path of an object, such as /Yard/Mast.");
            }
            SdfPath path = SdfPath.of(named);
            if (scene.stage().prim(path).isEmpty()) {
                throw new PantryException(scene.file(), "there is no <" + path + ">");
            }
            return path;
        }
        int slash = named.indexOf('/');
        if (slash > 0) {
            return path(scene, path(scene, named.substring(0, slash)) + named.substring(slash));
        }
        List<SdfPath> found = new ArrayList<>();
        scene.stage()
                .prims()
                .filter(prim -> prim.name().equals(named)
                        || prim.text("displayName").filter(named::equals).isPresent())
                .forEach(prim -> found.add(prim.path()));
        if (found.size() > 1) {
            // What the scene itself has is meant, rather than what is within its placements.
            List<SdfPath> own = found.stream()
                    .filter(path -> scene.spec(path)
                            .filter(spec -> spec.specifier() == Specifier.DEF)
                            .isPresent())
                    .toList();
            if (own.size() == 1) {
                return own.getFirst();
            }
        }
        if (found.size() != 1) {
            throw new PantryException(
                    scene.file(),
                    found.isEmpty()
                            ? "there is no object called " + named
                            : "there are " + found.size() + " objects called " + named + "; give a path, such as "
                                    + found.getFirst());
        }
        return found.getFirst();
    }

    List<SdfPath> paths(Scene scene, List<String> named) {
        return named.stream().map(each -> path(scene, each)).toList();
    }

    Vec3 factors(String option, String text) {
        if (!text.contains(",")) {
            double factor = number(option, text);
            return new Vec3(factor, factor, factor);
        }
        return triple(option, text);
    }

    Vec3 triple(String option, String text) {
        double[] n = numbers(option, text, 3);
        return new Vec3(n[0], n[1], n[2]);
    }
}
