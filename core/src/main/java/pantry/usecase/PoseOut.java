package pantry.usecase;

import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import pantry.base.AtomicFiles;
import pantry.base.IoProblems;
import pantry.base.Names;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.base.math.Box3;
import pantry.exchange.ModelWriters;
import pantry.exchange.format.Imported;
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
import pantry.workbench.Workbench;

/** Writes what moves as it stands at a moment, or pictures of it over a whole motion. */
public final class PoseOut {
    private static final int SIZE = 800;
    private static final int MOST_PICTURES = 9999;

    private final Workbench workbench;
    private final Path file;
    private final Posing posing;
    private final Motion motion;

    /**
     * @param file that can be received
     * @param name of the motion, in any case; the first one where empty
     * @throws PantryException where it cannot be read, nothing in it moves, or it has no such motion
     */
    public PoseOut(Workbench workbench, Path file, Optional<String> name, Progress progress) {
        this.workbench = workbench;
        this.file = file;
        Imported read = workbench.readers().read(file, progress);
        Model model = read.model()
                .reframed(read.up().orElse(Axis.Y).toMetres(read.unit().orElse(1.0)));
        this.posing = Posing.of(model)
                .filter(each -> !each.skeleton().motions().isEmpty())
                .orElseThrow(() -> new PantryException(file, "has no motions"));
        List<Motion> motions = posing.skeleton().motions();
        this.motion = motions.stream()
                .filter(each -> name.isEmpty() || each.name().equalsIgnoreCase(name.get()))
                .findFirst()
                .orElseThrow(() -> new PantryException(
                        file,
                        "has no motion \"" + name.orElse("") + "\"; there are "
                                + motions.stream().map(Motion::name).collect(Collectors.joining(", "))));
    }

    /** The motion that is looked at. */
    public Motion motion() {
        return motion;
    }

    /**
     * Writes how it stands at a moment, without its joints: a picture where the file ends in {@code png}, and a model of the
     * format of its ending otherwise.
     *
     * @param seconds from the motion's first key; beyond its ends, those hold
     * @return what the format cannot hold
     */
    public List<String> write(double seconds, Path to) {
        Model posed = still(posing.at(motion, motion.times()[0] + seconds));
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
        int count = (int) Math.min(MOST_PICTURES, Math.floor(motion.seconds() * perSecond) + 1);
        Box3 reach = posing.reach(motion);
        Camera camera = Camera.START.framing(reach, 1);
        List<Path> written = new ArrayList<>();
        for (int i = 0; i < count; i++) {
            progress.check();
            progress.step("picture " + (i + 1) + " of " + count, (double) i / count);
            String name = String.format(
                    Locale.ROOT, "%s.%04d.png", Names.stem(to.getFileName().toString()), i + 1);
            Path picture = to.resolveSibling(name);
            picture(posing.at(motion, motion.times()[0] + i / perSecond), camera, picture);
            written.add(picture);
        }
        return written;
    }

    private void picture(Model model, Camera camera, Path to) {
        RenderScene scene = RenderScene.of(model, workbench.renderCache());
        try {
            AtomicFiles.write(to, Thumbnails.png(Thumbnails.picture(scene, camera, SIZE, SIZE, RenderOptions.PLAIN)));
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
