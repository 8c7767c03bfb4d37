package pantry.demo;

import java.awt.Color;
import java.awt.GradientPaint;
import java.awt.Graphics2D;
import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import java.util.Random;
import javax.imageio.ImageIO;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.Texture;

/** The station's materials, three of them with images that are drawn here. */
final class Paints {
    static final Material SIGNAL_RED = paint("Signal red steel", 0xB23A2E, 0.45);
    static final Material STATION_WHITE = paint("Station white steel", 0xECE9E1, 0.5);
    static final Material DARK_STEEL = Material.plain("Dark steel", Colour.ofDisplay(0x4A5056), 0.5, 0.45);
    static final Material ALUMINIUM = Material.plain("Aluminium", Colour.ofDisplay(0xC3C7CB), 0.85, 0.38);
    static final Material GALVANISED = Material.plain("Galvanised steel", Colour.ofDisplay(0x9CA3A8), 0.6, 0.5);
    static final Material RUBBER = paint("Rubber", 0x2B2C2E, 0.85);
    static final Material GLASS = Material.plain("Window glass", Colour.ofDisplay(0x34505C), 0.1, 0.12);
    static final Material OCHRE = paint("Ochre panel", 0xD39A3A, 0.55);
    static final Material TEAL = paint("Teal panel", 0x3E7A78, 0.5);
    static final Material SHELL = paint("Radome shell", 0xF3F1EC, 0.35);
    static final Material FLAG = paint("Flag cloth", 0xE0602F, 0.9);
    static final Material BAMBOO = paint("Bamboo", 0xC2A86B, 0.8);
    static final Material SNOW = paint("Packed snow", 0xE9EFF3, 0.95);
    static final Material CABLE = paint("Cable sheath", 0x30383F, 0.6);

    private final Material cells;
    private final Material wood;
    private final Material grating;

    /** @param folder where the images are kept; made where missing */
    Paints(Path folder) throws IOException {
        Files.createDirectories(folder);
        this.cells = textured("Solar cells", 0.25, 0.25, folder.resolve("solar-cells.png"), cellsImage());
        this.wood = textured("Drum plywood", 0, 0.8, folder.resolve("drum-plywood.png"), woodImage());
        this.grating = textured("Walkway grating", 0.4, 0.6, folder.resolve("walkway-grating.png"), gratingImage());
    }

    Material cells() {
        return cells;
    }

    Material wood() {
        return wood;
    }

    Material grating() {
        return grating;
    }

    static Material paint(String name, int rgb, double roughness) {
        return Material.plain(name, Colour.ofDisplay(rgb), 0, roughness);
    }

    private static Material textured(String name, double metallic, double roughness, Path file, BufferedImage image)
            throws IOException {
        ImageIO.write(image, "png", file.toFile());
        return Material.plain(name, Colour.WHITE, metallic, roughness)
                .with(Material.Slot.BASE, new Texture(file.getFileName().toString(), Optional.of(file)));
    }

    /** The label that is stuck on drums. */
    static void writeLabel(Path file) throws IOException {
        BufferedImage image = new BufferedImage(512, 384, BufferedImage.TYPE_INT_RGB);
        Graphics2D g = image.createGraphics();
        g.setColor(new Color(0xECE9E1));
        g.fillRect(0, 0, 512, 384);
        g.setColor(new Color(0xB23A2E));
        g.fillRect(0, 0, 512, 96);
        g.setColor(new Color(0x2B2C2E));
        for (int i = 0; i < 5; i++) {
            g.fillRect(40, 140 + i * 44, 432 - i * 60, 18);
        }
        g.dispose();
        ImageIO.write(image, "png", file.toFile());
    }

    private static BufferedImage cellsImage() {
        BufferedImage image = new BufferedImage(512, 512, BufferedImage.TYPE_INT_RGB);
        Graphics2D g = image.createGraphics();
        g.setColor(new Color(0xB9C2C9));
        g.fillRect(0, 0, 512, 512);
        for (int row = 0; row < 6; row++) {
            for (int column = 0; column < 6; column++) {
                int x = column * 85 + 3;
                int y = row * 85 + 3;
                g.setPaint(new GradientPaint(x, y, new Color(0x23365A), x + 82f, y + 82f, new Color(0x1A2744)));
                g.fillRoundRect(x, y, 81, 81, 12, 12);
                g.setColor(new Color(0x7488A6));
                g.fillRect(x + 26, y, 2, 81);
                g.fillRect(x + 53, y, 2, 81);
            }
        }
        g.dispose();
        return image;
    }

    private static BufferedImage woodImage() {
        BufferedImage image = new BufferedImage(512, 512, BufferedImage.TYPE_INT_RGB);
        Random random = new Random(7);
        for (int y = 0; y < 512; y++) {
            double wave = Math.sin(y * 0.11) * 4 + Math.sin(y * 0.031 + 2) * 9;
            for (int x = 0; x < 512; x++) {
                double grain = Math.sin((x + wave * 6) * 0.045) * 9 + Math.sin((x * 0.31) + wave) * 5;
                int noise = random.nextInt(9) - 4;
                int r = (int) Math.clamp(190 + grain + noise, 0, 255);
                image.setRGB(x, y, r << 16 | (int) (r * 0.78) << 8 | (int) (r * 0.53));
            }
        }
        return image;
    }

    private static BufferedImage gratingImage() {
        BufferedImage image = new BufferedImage(256, 256, BufferedImage.TYPE_INT_RGB);
        Graphics2D g = image.createGraphics();
        g.setColor(new Color(0x3C4247));
        g.fillRect(0, 0, 256, 256);
        g.setColor(new Color(0xA9B0B4));
        for (int i = 0; i < 8; i++) {
            g.fillRect(i * 32, 0, 9, 256);
            g.fillRect(0, i * 32, 256, 6);
        }
        g.dispose();
        return image;
    }
}
