package pantry.workbench;

import java.awt.Color;
import java.awt.Font;
import java.awt.Graphics2D;
import java.awt.RenderingHints;
import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import pantry.base.AtomicFiles;
import pantry.base.FileStamp;
import pantry.base.IoProblems;
import pantry.base.Json;
import pantry.base.PantryException;
import pantry.base.Png;
import pantry.base.Sha256;
import pantry.render.RenderCache;
import pantry.scene.Focus;
import pantry.scene.Pictures;
import pantry.scene.Scene;

/** Pictures of scenes, which are kept until the scene or something that it uses is changed. */
public final class ScenePictures {
    private static final int WIDTH = 480;
    private static final int HEIGHT = 300;
    private static final int LETTERS = 22;
    private static final String NOTHING = "Shows nothing";

    private final Path folder;
    private final RenderCache cache;

    /** @param stamps of the scene's file and of all that it used when the picture was taken, by path */
    private record About(Map<String, String> stamps) {}

    /** @param folder where they are kept; made where it is missing */
    ScenePictures(Path folder, RenderCache cache) {
        this.folder = folder;
        this.cache = cache;
    }

    /** The picture that is kept of a scene; empty where there is none, or something was changed since. */
    public Optional<Path> kept(Path scene) {
        Path picture = picture(scene);
        Path about = about(scene);
        try {
            if (!Files.exists(picture) || !Files.exists(about)) {
                return Optional.empty();
            }
            Map<String, String> stamps = Json.read(about, About.class).stamps();
            boolean same = stamps.entrySet().stream()
                    .allMatch(entry -> stamp(Path.of(entry.getKey())).equals(entry.getValue()));
            return same ? Optional.of(picture) : Optional.empty();
        } catch (PantryException e) {
            // What cannot be read is made anew.
            return Optional.empty();
        }
    }

    /**
     * Takes a picture of a scene, from its first focus or of all of it, and keeps it.
     *
     * @throws PantryException where it cannot be written
     */
    public Path take(Scene scene) {
        Focus whole = new Focus("", Focus.Detail.FULL, java.util.Set.of(), java.util.Set.of(), Optional.empty());
        Focus focus = scene.focuses().all().stream()
                .filter(each -> each.from().isPresent())
                .findFirst()
                .orElse(whole);
        boolean nothing = scene.model().bounds().isEmpty();
        byte[] png = Png.of(nothing ? nothing() : new Pictures(cache).of(scene, focus, false, WIDTH, HEIGHT));
        Map<String, String> stamps = new TreeMap<>();
        scene.files().forEach(file -> stamps.put(file.toString(), stamp(file)));
        Path picture = picture(scene.file());
        try {
            Files.createDirectories(folder);
            AtomicFiles.write(picture, png);
            AtomicFiles.write(about(scene.file()), Json.write(new About(stamps)));
            return picture;
        } catch (IOException e) {
            throw new PantryException(picture, "cannot be kept: " + IoProblems.describe(e), e);
        }
    }

    /** Clear but for the words, which can be read on light and dark. */
    private static BufferedImage nothing() {
        BufferedImage image = new BufferedImage(WIDTH, HEIGHT, BufferedImage.TYPE_INT_ARGB);
        Graphics2D g = image.createGraphics();
        g.setRenderingHint(RenderingHints.KEY_TEXT_ANTIALIASING, RenderingHints.VALUE_TEXT_ANTIALIAS_ON);
        g.setFont(new Font(Font.SANS_SERIF, Font.PLAIN, LETTERS));
        g.setColor(Color.GRAY);
        int width = g.getFontMetrics().stringWidth(NOTHING);
        g.drawString(NOTHING, (WIDTH - width) / 2, HEIGHT / 2);
        g.dispose();
        return image;
    }

    private static String stamp(Path file) {
        try {
            FileStamp stamp = FileStamp.of(file);
            return stamp.written().toMillis() + " " + stamp.size();
        } catch (IOException e) {
            return "";
        }
    }

    private Path picture(Path scene) {
        return folder.resolve(name(scene) + ".png");
    }

    private Path about(Path scene) {
        return folder.resolve(name(scene) + ".json");
    }

    private static String name(Path scene) {
        return Sha256.of(scene.toAbsolutePath().normalize().toString().getBytes(StandardCharsets.UTF_8));
    }
}
