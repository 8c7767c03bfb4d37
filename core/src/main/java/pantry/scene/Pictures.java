package pantry.scene;

import java.awt.Color;
import java.awt.Font;
import java.awt.Graphics2D;
import java.awt.RenderingHints;
import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import pantry.base.AtomicFiles;
import pantry.base.IoProblems;
import pantry.base.Png;
import pantry.base.Progress;
import pantry.base.math.Box3;
import pantry.base.math.Vec3;
import pantry.model.Lamp;
import pantry.render.Camera;
import pantry.render.LampLighting;
import pantry.render.RenderCache;
import pantry.render.RenderOptions;
import pantry.render.RenderScene;
import pantry.render.Thumbnails;
import pantry.usd.SdfPath;

/** Pictures of a scene: of its focuses, and a sheet with all combinations of its alternates. */
public final class Pictures {
    private static final int CAPTION = 34;
    private static final int GAP = 12;
    private static final int INK = 0x22262B;
    private static final int PAPER = 0xF6F2E9;

    private final RenderCache cache;

    public Pictures(RenderCache cache) {
        this.cache = cache;
    }

    /** The view that a focus keeps. */
    public static Camera camera(Focus.Eye eye) {
        double[] t = eye.target();
        Vec3 target = new Vec3(t[0], t[1], t[2]);
        return eye.parallel()
                ? new Camera(target, eye.yaw(), eye.pitch(), Camera.START.distance(), Camera.START.fieldOfView())
                        .parallel(true)
                        .away(eye.distance())
                : new Camera(target, eye.yaw(), eye.pitch(), eye.distance(), Camera.START.fieldOfView());
    }

    /** What a focus keeps of a view. */
    public static Focus.Eye eye(Camera camera) {
        Vec3 t = camera.target();
        return new Focus.Eye(
                new double[] {t.x(), t.y(), t.z()},
                camera.yaw(),
                camera.pitch(),
                camera.distance(),
                camera.isParallel());
    }

    /**
     * A scene as a focus shows it, with shadows on the ground.
     *
     * @param lit whether in the light of the scene's own lamps, where it has some, rather than in Pantry's
     */
    public BufferedImage of(Scene scene, Focus focus, boolean lit, int width, int height) {
        Scene loaded = scene;
        Set<SdfPath> unloaded = scene.drawers().members(focus.unloaded());
        if (!unloaded.isEmpty()) {
            loaded = scene.snapshot();
            loaded.load(path -> !path.startsWithAny(unloaded));
        }
        Set<SdfPath> hidden = scene.drawers().members(focus.hidden());
        hidden.addAll(unloaded);
        boolean light = focus.detail() == Focus.Detail.LIGHT;
        RenderScene drawn =
                RenderScene.of(SceneMotion.begun(loaded, loaded.model(path -> light, hidden::contains)), cache);
        List<Lamp> lamps = lit ? loaded.lamps(hidden::contains) : List.of();
        drawn = lamps.isEmpty() ? drawn : LampLighting.lit(drawn, lamps, 0);
        List<Box3> boxes = drawn.boxes();
        Camera camera = focus.from()
                .map(Pictures::camera)
                .orElseGet(() -> Camera.START.framing(boxes, (double) width / height));
        return Thumbnails.picture(drawn, camera, width, height, RenderOptions.PLAIN);
    }

    /** A combination of alternates as it is to be drawn. */
    private record Shown(RenderScene drawn, List<Lamp> lamps) {}

    /**
     * All combinations of a scene's alternates side by side, each with its names below it; all from one place, and where
     * there are lamps in any, all in their own light under one exposure, that of the brightest.
     *
     * @param width of one picture, pixels
     */
    public BufferedImage sheet(Scene scene, int width, Progress progress) {
        List<Map<String, String>> all = scene.alternates().combinations();
        int height = width * 5 / 8;
        int columns = (int) Math.ceil(Math.sqrt(all.size()));
        int rows = (all.size() + columns - 1) / columns;
        BufferedImage sheet = new BufferedImage(
                GAP + columns * (width + GAP), GAP + rows * (height + CAPTION + GAP), BufferedImage.TYPE_INT_RGB);
        Graphics2D g = sheet.createGraphics();
        g.setColor(new Color(PAPER));
        g.fillRect(0, 0, sheet.getWidth(), sheet.getHeight());
        g.setRenderingHint(RenderingHints.KEY_TEXT_ANTIALIASING, RenderingHints.VALUE_TEXT_ANTIALIAS_ON);
        g.setFont(new Font(Font.SANS_SERIF, Font.PLAIN, 14));
        g.setColor(new Color(INK));
        List<Shown> shown = new ArrayList<>();
        List<Box3> boxes = new ArrayList<>();
        for (Map<String, String> combination : all) {
            progress.step(caption(combination), 0.5 * shown.size() / all.size());
            Scene switched = scene.showing(combination);
            RenderScene drawn = RenderScene.of(SceneMotion.begun(switched, switched.model()), cache);
            shown.add(new Shown(drawn, switched.lamps(path -> false)));
            boxes.addAll(drawn.boxes());
        }
        boolean lit = shown.stream().anyMatch(each -> !each.lamps().isEmpty());
        double exposure = shown.stream()
                .filter(each -> !each.lamps().isEmpty())
                .mapToDouble(each -> LampLighting.measured(each.drawn(), each.lamps()))
                .min()
                .orElse(1);
        Camera camera = Camera.START.framing(boxes, (double) width / height);
        for (int i = 0; i < all.size(); i++) {
            progress.step(caption(all.get(i)), 0.5 + 0.5 * i / all.size());
            int x = GAP + i % columns * (width + GAP);
            int y = GAP + i / columns * (height + CAPTION + GAP);
            Shown each = shown.get(i);
            RenderScene drawn = lit ? LampLighting.exposed(each.drawn(), each.lamps(), exposure) : each.drawn();
            g.drawImage(Thumbnails.picture(drawn, camera, width, height, RenderOptions.PLAIN), x, y, null);
            g.drawString(caption(all.get(i)), x + 4, y + height + 22);
        }
        g.dispose();
        return sheet;
    }

    private static String caption(Map<String, String> combination) {
        return combination.isEmpty()
                ? "no alternates"
                : combination.entrySet().stream()
                        .map(each -> each.getKey() + ": " + each.getValue())
                        .collect(Collectors.joining(" · "));
    }

    /**
     * Writes a picture as PNG; its folder is made where it is missing.
     *
     * @throws SceneException where the file cannot be written
     */
    public static void write(BufferedImage picture, Path file) {
        try {
            Files.createDirectories(file.toAbsolutePath().getParent());
            AtomicFiles.write(file, Png.of(picture));
        } catch (IOException e) {
            throw new SceneException(file, "cannot be written: " + IoProblems.describe(e));
        }
    }
}
