package pantry.usecase;

import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.DoubleFunction;
import java.util.stream.Collectors;
import pantry.base.AtomicFiles;
import pantry.base.IoProblems;
import pantry.base.Names;
import pantry.base.PantryException;
import pantry.base.Png;
import pantry.base.Progress;
import pantry.base.math.Box3;
import pantry.exchange.ModelWriters;
import pantry.exchange.format.Imported;
import pantry.intake.Intake;
import pantry.intake.Neighbours;
import pantry.mesh.Channel;
import pantry.model.Axis;
import pantry.model.Model;
import pantry.model.Posing;
import pantry.motion.BlendShapes;
import pantry.motion.Motion;
import pantry.motion.Skin;
import pantry.render.Camera;
import pantry.render.RenderOptions;
import pantry.render.RenderScene;
import pantry.render.Thumbnails;
import pantry.scene.Scene;
import pantry.scene.SceneMotion;
import pantry.workbench.Workbench;

/** Writes what moves, a thing or a scene, as it stands at a moment, or pictures of it over the whole time. */
public final class PoseOut {
    private static final int SIZE = 800;
    /** So many times are looked at to find how far it reaches. */
    private static final int LOOKS = 24;

    private static final int MOST_PICTURES = 9999;

    private final Workbench workbench;
    private final Path file;
    private final Played played;
    private final List<String> misfits = new ArrayList<>();

    /**
     * What is played.
     *
     * @param name of the motion; of a scene, that of its file
     * @param at the model so many seconds from the beginning
     */
    private record Played(String name, double seconds, DoubleFunction<Model> at) {
        /** The box around all of it, as seen at times at even distances. */
        Box3 reach() {
            Box3 all = Box3.EMPTY;
            for (int look = 0; look <= LOOKS; look++) {
                all = all.union(at.apply(seconds * look / LOOKS).bounds());
            }
            return all;
        }
    }

    /**
     * @param file that can be received, or a scene, whose placements do what is bound to them
     * @param name of the motion, in any case; the first one where empty; none of a scene
     * @throws PantryException where it cannot be read, nothing in it moves, or it has no such motion
     */
    public PoseOut(Workbench workbench, Path file, Optional<String> name, Progress progress) {
        this(workbench, file, Optional.empty(), name, progress);
    }

    /**
     * As above, but of a thing that does what another does.
     *
     * @param mover a file that can be received and has motions; the thing's own where empty
     * @throws PantryException also where none of its motions fits
     */
    public PoseOut(Workbench workbench, Path file, Optional<Path> mover, Optional<String> name, Progress progress) {
        this.workbench = workbench;
        this.file = file;
        if (Scene.isScene(file)) {
            if (mover.isPresent()) {
                throw new PantryException(file, "is a scene; what its placements do is said with the command motion");
            }
            this.played = scene(name);
        } else {
            this.played = thing(mover, name, progress);
        }
    }

    private Played scene(Optional<String> name) {
        if (name.isPresent()) {
            throw new PantryException(
                    file, "is a scene, in which each placement has its own motion; see the command motion");
        }
        Scene scene = workbench.openScene(file);
        SceneMotion motion = SceneMotion.of(scene, scene.model())
                .orElseThrow(() -> new PantryException(file, "has nothing that moves"));
        return new Played(
                Names.stem(file.getFileName().toString()),
                motion.end() - motion.start(),
                seconds -> motion.at(motion.start() + seconds));
    }

    private Model inMetres(Path of, Progress progress) {
        Imported read = workbench.readers().read(of, progress);
        // Of what does not say its unit, the likely one.
        double factor = read.unit()
                .orElseGet(() -> Intake.suggested(read, "", Neighbours.NONE).factor());
        return read.model().reframed(read.up().orElse(Axis.Y).toMetres(factor));
    }

    private Model moved(Model figure, Path mover, Progress progress) {
        AlikeSkeletons.Tried tried = AlikeSkeletons.tried(figure, inMetres(mover, progress))
                .orElseThrow(() ->
                        new PantryException(mover, "has no motion of joints that " + file.getFileName() + " has"));
        misfits.addAll(tried.misfits());
        return tried.model();
    }

    private Played thing(Optional<Path> mover, Optional<String> name, Progress progress) {
        Model own = inMetres(file, progress);
        Model model = mover.map(other -> moved(own, other, progress)).orElse(own);
        Posing posing = Posing.of(model)
                .filter(each -> !each.skeleton().motions().isEmpty())
                .orElseThrow(() -> new PantryException(file, "has no motions"));
        List<Motion> motions = posing.skeleton().motions();
        Motion motion = motions.stream()
                .filter(each -> name.isEmpty() || each.name().equalsIgnoreCase(name.get()))
                .findFirst()
                .orElseThrow(() -> new PantryException(
                        file,
                        "has no motion \"" + name.orElse("") + "\"; there are "
                                + motions.stream().map(Motion::name).collect(Collectors.joining(", "))));
        return new Played(motion.name(), motion.seconds(), seconds -> posing.at(motion, motion.times()[0] + seconds));
    }

    /** The name of the motion that is looked at, or of the scene. */
    public String name() {
        return played.name();
    }

    /** What of another thing's motions does not fit, for a person. */
    public List<String> misfits() {
        return List.copyOf(misfits);
    }

    /** How long that takes. */
    public double seconds() {
        return played.seconds();
    }

    /**
     * Writes how it stands at a moment, without its joints: a picture where the file ends in {@code png}, and a model of the
     * format of its ending otherwise.
     *
     * @param seconds from the beginning; beyond its ends, those hold
     * @return what the format cannot hold
     */
    public List<String> write(double seconds, Path to) {
        Model posed = still(played.at().apply(seconds));
        if (isPicture(to)) {
            picture(posed, Camera.START.framing(posed.bounds(), 1), to);
            return List.of();
        }
        ModelWriters.Options options = new ModelWriters.Options(1, "metres", Optional.of(file));
        return ModelWriters.write(posed, to, options).left();
    }

    private static boolean isPicture(Path to) {
        return Names.ending(to.getFileName().toString()).equals("png");
    }

    /**
     * Writes a picture for each moment of the motion, numbered before the ending, all seen from one place.
     *
     * @param perSecond pictures for each second, above 0
     * @return the pictures, in their order
     */
    public List<Path> pictures(double perSecond, Path to, Progress progress) {
        if (!isPicture(to)) {
            throw new PantryException(to, "is no picture: pictures over time are written as png");
        }
        int count = (int) Math.min(MOST_PICTURES, Math.floor(played.seconds() * perSecond) + 1);
        Camera camera = Camera.START.framing(played.reach(), 1);
        List<Path> written = new ArrayList<>();
        for (int i = 0; i < count; i++) {
            progress.check();
            progress.step("picture " + (i + 1) + " of " + count, (double) i / count);
            String name = String.format(
                    Locale.ROOT, "%s.%04d.png", Names.stem(to.getFileName().toString()), i + 1);
            Path picture = to.resolveSibling(name);
            picture(played.at().apply(i / perSecond), camera, picture);
            written.add(picture);
        }
        return written;
    }

    private void picture(Model model, Camera camera, Path to) {
        RenderScene scene = RenderScene.of(model, workbench.renderCache());
        try {
            AtomicFiles.write(to, Png.of(Thumbnails.picture(scene, camera, SIZE, SIZE, RenderOptions.PLAIN)));
        } catch (IOException e) {
            throw new PantryException(to, "cannot be written: " + IoProblems.describe(e), e);
        }
    }

    /** What nothing moves any more. */
    private static Model still(Model posed) {
        return posed.withMeshes(mesh -> {
                    Map<String, Channel> others = new LinkedHashMap<>(mesh.primvars());
                    others.keySet().removeIf(name -> Skin.isChannel(name) || BlendShapes.isChannel(name));
                    return mesh.withPrimvars(others);
                })
                .with(posed.extras().with(Optional.empty()));
    }
}
