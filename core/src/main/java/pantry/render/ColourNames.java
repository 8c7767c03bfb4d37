package pantry.render;

import java.awt.image.BufferedImage;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * Names the colours that are seen most of in a picture, in the eleven basic colour words of English (B. Berlin, P. Kay,
 * Basic Color Terms, 1969) and teal. The bounds between them are Pantry's own.
 */
public final class ColourNames {
    /** Names by the hue at which they end, degrees. */
    private static final Map<String, Integer> HUES = hues();

    private static final double LEAST_SHARE = 0.1;
    private static final int STEP = 3;

    /** Lighter reds are called pink. */
    private static final double PALE = 0.75;

    private ColourNames() {}

    private static Map<String, Integer> hues() {
        Map<String, Integer> hues = new LinkedHashMap<>();
        hues.put("red", 14);
        hues.put("orange", 42);
        hues.put("yellow", 68);
        hues.put("green", 160);
        hues.put("teal", 192);
        hues.put("blue", 258);
        hues.put("purple", 312);
        hues.put("pink", 342);
        hues.put("red ", 361);
        return hues;
    }

    /** The names of the colours that cover at least a tenth of what is seen, the most seen first. */
    public static List<String> of(BufferedImage picture) {
        Map<String, Integer> counts = new LinkedHashMap<>();
        int seen = 0;
        for (int y = 0; y < picture.getHeight(); y += STEP) {
            for (int x = 0; x < picture.getWidth(); x += STEP) {
                int argb = picture.getRGB(x, y);
                // The contact shadow on the clear ground is not the thing's.
                if (argb >>> 24 > 250) {
                    counts.merge(name(argb), 1, Integer::sum);
                    seen++;
                }
            }
        }
        int all = seen;
        return counts.entrySet().stream()
                .filter(entry -> entry.getValue() >= LEAST_SHARE * all)
                .sorted(Map.Entry.comparingByValue(Comparator.reverseOrder()))
                .map(Map.Entry::getKey)
                .toList();
    }

    /** The word for a display colour. */
    static String name(int rgb) {
        int r = rgb >> 16 & 0xff;
        int g = rgb >> 8 & 0xff;
        int b = rgb & 0xff;
        int most = Math.max(r, Math.max(g, b));
        int least = Math.min(r, Math.min(g, b));
        double light = (most + least) / 510.0;
        double chroma = (most - least) / 255.0;
        if (chroma < 0.09 || chroma < 0.16 * light || most < 28) {
            return light < 0.2 ? "black" : light > 0.78 ? "white" : "grey";
        }
        double hue = hue(r, g, b, most, least);
        String name = HUES.entrySet().stream()
                .filter(entry -> hue < entry.getValue())
                .findFirst()
                .orElseThrow()
                .getKey()
                .strip();
        if (name.equals("red") && light > PALE) {
            return "pink";
        }
        boolean warm = name.equals("orange") || name.equals("red") && hue < 30;
        return warm && chroma < 0.45 && light < 0.55 ? "brown" : name;
    }

    private static double hue(int r, int g, int b, int most, int least) {
        double span = most - least;
        double hue = most == r ? (g - b) / span : most == g ? 2 + (b - r) / span : 4 + (r - g) / span;
        return (hue * 60 + 360) % 360;
    }
}
