package pantry.base;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;

/** Tells images by their first bytes. Source: the formats' own specifications; from memory. */
public final class ImageSignature {
    private static final int LENGTH = 18;

    private static final List<String> STARTS = List.of(
            "\u0089PNG\r\n\u001a\n",
            "\u00ff\u00d8\u00ff",
            "GIF87a",
            "GIF89a",
            "BM",
            "II*\0",
            "MM\0*",
            "II+\0",
            "MM\0+",
            "v/1\u0001",
            "#?RADIANCE",
            "#?RGBE",
            "\u00abKTX 11\u00bb",
            "\u00abKTX 20\u00bb",
            "DDS ",
            "8BPS");

    private ImageSignature() {}

    /** Whether a file begins as an image does. */
    public static boolean isImage(Path file) {
        try (InputStream in = Files.newInputStream(file)) {
            return isImage(in.readNBytes(LENGTH));
        } catch (IOException e) {
            return false;
        }
    }

    /** Whether these are the first bytes of an image; 18 are enough. */
    public static boolean isImage(byte[] first) {
        String start = new String(first, StandardCharsets.ISO_8859_1);
        for (String known : STARTS) {
            if (start.startsWith(known)) {
                return true;
            }
        }
        boolean webp = start.startsWith("RIFF") && start.startsWith("WEBP", 8);
        boolean avif = start.startsWith("ftypavi", 4) || start.startsWith("ftypmif1", 4);
        return webp || avif || isTarga(first);
    }

    /** Targa has no mark at its start: its header's kinds, depths and sizes must be among those that there are. */
    private static boolean isTarga(byte[] b) {
        if (b.length < LENGTH) {
            return false;
        }
        int map = b[1];
        int kind = b[2];
        int depth = b[16] & 0xff;
        boolean kinds = (kind >= 1 && kind <= 3) || (kind >= 9 && kind <= 11);
        boolean depths = depth == 8 || depth == 15 || depth == 16 || depth == 24 || depth == 32;
        boolean sized = (b[12] | b[13]) != 0 && (b[14] | b[15]) != 0;
        return (map == 0 || map == 1) && kinds && depths && sized;
    }
}
