package pantry.prep.inspect;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import pantry.base.ImageDecoder;
import pantry.model.Model;
import pantry.model.Texture;
import pantry.model.Texture.Wrap;
import pantry.workpiece.Subject;

/** Images that are repeated over a surface and whose opposite edges do not go on into each other: a line is seen at each repeat. */
final class TilingRule {
    /** Coordinates that reach a little beyond the image do not repeat it. */
    private static final double BEYOND = 0.02;

    private TilingRule() {}

    /** Whether an image is repeated, across and upwards. */
    private record Repeats(boolean across, boolean up) {
        Repeats or(Repeats other) {
            return new Repeats(across || other.across, up || other.up);
        }
    }

    static void find(Subject subject, Limits limits, Findings found) {
        Map<Path, Repeats> repeated = new HashMap<>();
        Set<Model.Part> seen = Collections.newSetFromMap(new IdentityHashMap<>());
        subject.model().visit((owner, part, world) -> {
            // What stands many times is looked at once.
            if (seen.add(part)) {
                collect(part, repeated);
            }
        });
        subject.textures().byImage().forEach((file, uses) -> {
            Repeats repeats = repeated.getOrDefault(file, new Repeats(false, false));
            if (repeats.across() || repeats.up()) {
                subject.progress().check();
                List<String> seams = seams(file, repeats, limits.number("seam"));
                if (!seams.isEmpty()) {
                    found.add(
                            uses.getFirst().path(),
                            file.getFileName() + " is repeated: " + String.join("; ", seams),
                            null);
                }
            }
        });
    }

    private static void collect(Model.Part part, Map<Path, Repeats> repeated) {
        part.mesh().uvs().ifPresent(uvs -> part.material().textures().values().forEach(texture -> texture.file()
                .ifPresent(file -> repeated.merge(file, repeats(texture, uvs.data()), Repeats::or))));
    }

    private static Repeats repeats(Texture texture, float[] uvs) {
        float[] placed = texture.sampling().placement().placed(uvs);
        double[] least = {Double.POSITIVE_INFINITY, Double.POSITIVE_INFINITY};
        double[] most = {Double.NEGATIVE_INFINITY, Double.NEGATIVE_INFINITY};
        for (int i = 0; i < placed.length; i++) {
            least[i % 2] = Math.min(least[i % 2], placed[i]);
            most[i % 2] = Math.max(most[i % 2], placed[i]);
        }
        return new Repeats(
                texture.sampling().wrapS() == Wrap.REPEAT && most[0] - least[0] > 1 + BEYOND,
                texture.sampling().wrapT() == Wrap.REPEAT && most[1] - least[1] > 1 + BEYOND);
    }

    /** What cannot be decoded is told by another rule. */
    private static List<String> seams(Path file, Repeats repeats, double most) {
        try {
            BufferedImage image = ImageDecoder.read(file);
            List<String> seams = new ArrayList<>();
            if (repeats.across() && image.getWidth() > 2) {
                add(seams, "left and right", step(image, true, image.getWidth() - 1, 0), inner(image, true), most);
            }
            if (repeats.up() && image.getHeight() > 2) {
                add(seams, "top and bottom", step(image, false, image.getHeight() - 1, 0), inner(image, false), most);
            }
            return seams;
        } catch (IOException e) {
            return List.of();
        }
    }

    private static void add(List<String> seams, String edges, double step, double inner, double most) {
        if (step > most + 2 * inner) {
            seams.add(String.format(
                    Locale.ROOT, "its %s edges differ by %.0f of 255, neighbours within by %.0f", edges, step, inner));
        }
    }

    /** How much lines beside the edges differ from those next to them. */
    private static double inner(BufferedImage image, boolean columns) {
        int last = (columns ? image.getWidth() : image.getHeight()) - 1;
        return (step(image, columns, 0, 1) + step(image, columns, last - 1, last)) / 2;
    }

    /** How much two columns or rows differ, on the average of their pixels and colours, of 255. */
    private static double step(BufferedImage image, boolean columns, int one, int other) {
        int length = columns ? image.getHeight() : image.getWidth();
        long sum = 0;
        for (int i = 0; i < length; i++) {
            int a = columns ? image.getRGB(one, i) : image.getRGB(i, one);
            int b = columns ? image.getRGB(other, i) : image.getRGB(i, other);
            for (int shift = 0; shift <= 16; shift += 8) {
                sum += Math.abs((a >> shift & 0xff) - (b >> shift & 0xff));
            }
        }
        return sum / (3.0 * length);
    }
}
