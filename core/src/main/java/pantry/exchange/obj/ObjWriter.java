package pantry.exchange.obj;

import java.io.BufferedWriter;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import pantry.base.AtomicFiles;
import pantry.base.DisplayCurve;
import pantry.base.Names;
import pantry.exchange.format.ExportImages;
import pantry.exchange.format.ExportNotes;
import pantry.exchange.format.HeightImages;
import pantry.exchange.format.PlacedParts;
import pantry.exchange.format.PlacedParts.Placed;
import pantry.mesh.Channel;
import pantry.mesh.Mesh;
import pantry.mesh.Strands;
import pantry.mesh.VertexSplit;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.Material.Slot;
import pantry.model.Model;
import pantry.model.Texture;

/**
 * Writes OBJ with its material library. Colours of points stand behind their places, as a display has them, and metalness and roughness have
 * the words {@code Pm} and {@code Pr}, as is common practice; faces keep their corners, points and lines are such.
 */
public final class ObjWriter {
    private static final String FORMAT = "OBJ";

    private final ExportNotes notes;
    private final ExportImages images;
    private final Map<Material, String> names = new LinkedHashMap<>();
    private final BufferedWriter out;
    private int points = 1;
    private int uvs = 1;
    private int normals = 1;

    private ObjWriter(BufferedWriter out, ExportImages images, ExportNotes notes) {
        this.out = out;
        this.images = images;
        this.notes = notes;
    }

    /**
     * Writes a model, with {@code .mtl} and images beside it where it has materials.
     *
     * @param file that is written
     * @param target where it will stand once it is whole
     * @param unit of the numbers, as a person says it
     */
    public static void write(Model model, Path file, Path target, String unit, ExportNotes notes) throws IOException {
        List<Placed> placed = new ArrayList<>(PlacedParts.of(model));
        // A material holds until the next is named, so what has none comes first.
        placed.sort(Comparator.comparing(each -> !each.material().isNone()));
        PlacedParts.noteStructure(model, FORMAT, notes);
        PlacedParts.noteChannels(placed, List.of(Mesh.COLOUR, "st1", "st2", "st3"), FORMAT, notes);
        try (BufferedWriter out = Files.newBufferedWriter(file, StandardCharsets.UTF_8)) {
            ObjWriter writer = new ObjWriter(out, new ExportImages(target, notes), notes);
            writer.name(placed);
            out.write("# Pantry; " + unit + ", Y up\n");
            if (!writer.names.isEmpty()) {
                String library = line(Names.stem(target.getFileName().toString())) + ".mtl";
                AtomicFiles.write(
                        target.toAbsolutePath().resolveSibling(library),
                        writer.library().getBytes(StandardCharsets.UTF_8));
                out.write("mtllib " + library + "\n");
            }
            Model.@Nullable Node owner = null;
            for (Placed each : placed) {
                if (each.owner() != owner) {
                    owner = each.owner();
                    out.write("o " + line(owner.name()) + "\n");
                }
                writer.part(each);
            }
        }
    }

    private void name(Collection<Placed> placed) {
        for (Placed each : placed) {
            Material material = each.material();
            if (!material.isNone() && !names.containsKey(material)) {
                String plain = line(material.name()).replace(' ', '_');
                names.put(material, Names.free(plain.isEmpty() ? "Material" : plain, names::containsValue));
            }
        }
    }

    /** A name as one line. */
    private static String line(String name) {
        return name.replaceAll("[\\p{Cntrl}\\s]+", " ").strip();
    }

    private String library() {
        StringBuilder out = new StringBuilder();
        names.forEach((material, name) -> {
            Material.Finish finish = material.finish();
            out.append("newmtl ").append(name).append('\n');
            out.append("Kd ").append(rgb(material.base())).append('\n');
            if (!material.emissive().equals(Colour.BLACK)) {
                out.append("Ke ").append(rgb(material.emissive())).append('\n');
            }
            out.append("d ").append(material.opacity()).append('\n');
            out.append("Pr ").append(material.roughness()).append('\n');
            out.append("Pm ").append(material.metallic()).append('\n');
            if (finish.ior() != Material.Finish.USUAL.ior()) {
                out.append("Ni ").append(finish.ior()).append('\n');
            }
            if (finish.clearcoat() > 0) {
                out.append("Pc ").append(finish.clearcoat()).append('\n');
                out.append("Pcr ").append(finish.clearcoatRoughness()).append('\n');
            }
            if (finish.cutoff() > 0) {
                notes.left(FORMAT + " has no cut-off: what of " + material.name() + " is not there is see-through");
            }
            image(out, material, "map_Kd", Slot.BASE);
            image(out, material, "map_Ke", Slot.EMISSIVE);
            image(out, material, "map_Pr", Slot.ROUGHNESS);
            image(out, material, "map_Pm", Slot.METALLIC);
            image(out, material, "map_d", Slot.OPACITY);
            image(out, material, "norm", Slot.NORMAL);
            image(out, material, "disp", Slot.DISPLACEMENT);
            if (material.texture(Slot.OCCLUSION).isPresent()) {
                notes.left(FORMAT + " has no occlusion: the image of " + material.name() + " is left out");
            }
        });
        return out.toString();
    }

    private static String rgb(Colour colour) {
        return colour.r() + " " + colour.g() + " " + colour.b();
    }

    private void image(StringBuilder out, Material material, String word, Slot slot) {
        Texture texture = material.texture(slot).orElse(null);
        Optional<String> path = texture == null ? Optional.empty() : images.path(texture);
        if (texture == null || path.isEmpty()) {
            return;
        }
        Texture.Sampling sampling = texture.sampling();
        Texture.Placement own = sampling.placement();
        if (own.uvSet() != leading(material).uvSet() || turned(own) && !own.equals(leading(material))) {
            notes.left(FORMAT + " has one set of texture coordinates: " + word + " of " + material.name()
                    + " lies otherwise than its colour");
        }
        out.append(word);
        if (!turned(leading(material)) && !own.inPlace()) {
            out.append(" -s ")
                    .append(own.scaleU())
                    .append(' ')
                    .append(own.scaleV())
                    .append(" 1");
            out.append(" -o ")
                    .append(own.moveU())
                    .append(' ')
                    .append(own.moveV())
                    .append(" 0");
        }
        if (sampling.wrapS() == Texture.Wrap.CLAMP && sampling.wrapT() == Texture.Wrap.CLAMP) {
            out.append(" -clamp on");
        } else if (sampling.wrapS() != Texture.Wrap.REPEAT || sampling.wrapT() != Texture.Wrap.REPEAT) {
            notes.left(FORMAT + " repeats images or ends them on all sides: " + word + " of " + material.name()
                    + " repeats");
        }
        float factor = slot == Slot.NORMAL
                ? sampling.strength()
                : slot == Slot.DISPLACEMENT ? sampling.strength() / HeightImages.USUAL : 1;
        if (factor != 1) {
            out.append(" -bm ").append(factor);
        }
        if (!slot.colour() && slot != Slot.NORMAL) {
            String channel = sampling.channel() == Texture.Channel.OF_SLOT
                    ? slot.output()
                    : sampling.channel().output();
            out.append(" -imfchan ").append(channel.equals("a") ? "m" : channel);
        }
        if (!sampling.filter().equals(Texture.Filter.UNSAID)) {
            notes.left(FORMAT + " does not say how images are looked up between their pixels");
        }
        out.append(' ').append(path.get()).append('\n');
    }

    /** Where the image lies that the written coordinates are for: the colour's, or the first that there is. */
    private static Texture.Placement leading(Material material) {
        return material.texture(Slot.BASE)
                .or(() -> material.textures().values().stream().findFirst())
                .map(texture -> texture.sampling().placement())
                .orElse(Texture.Placement.USUAL);
    }

    private static boolean turned(Texture.Placement placement) {
        return placement.rotation() != 0;
    }

    private void part(Placed placed) throws IOException {
        Mesh mesh = placed.mesh();
        if (!placed.material().isNone()) {
            out.write("usemtl " + names.get(placed.material()) + "\n");
        }
        if (placed.strands().isPresent()) {
            strands(placed.strands().get());
            return;
        }
        Channel colour = mesh.primvars().get(Mesh.COLOUR);
        // Points that have more than one colour are written as often as they have.
        VertexSplit split = VertexSplit.of(mesh, colour == null ? List.of() : List.of(colour));
        float[] colours = colour == null ? null : split.channels().getFirst().data();
        points(split.positions(), colours);
        Texture.Placement lying = leading(placed.material());
        Channel uv = lying.uvSet() == 0
                ? mesh.uvs().orElse(null)
                : Optional.ofNullable(mesh.primvars().get(Mesh.uvSet(lying.uvSet())))
                        .or(mesh::uvs)
                        .orElse(null);
        if (uv != null) {
            // The options of the format can move and scale, but not turn.
            lines("vt", turned(lying) ? lying.placed(uv.data()) : uv.data(), 2);
        }
        long sets = mesh.primvars().keySet().stream()
                        .filter(name -> name.matches("st[1-9]"))
                        .count()
                + (mesh.uvs().isPresent() ? 1 : 0);
        if (sets > 1) {
            notes.left(FORMAT + " has one set of texture coordinates: "
                    + placed.owner().name() + " has " + sets);
        }
        Channel normal = mesh.normals().orElse(null);
        if (normal != null) {
            lines("vn", normal.data(), 3);
        }
        faces(mesh, split.corners(), uv, normal);
        points += split.positions().length / 3;
        uvs += uv == null ? 0 : uv.size();
        normals += normal == null ? 0 : normal.size();
    }

    /** The format's own elements for loose points and for lines. */
    private void strands(Strands strands) throws IOException {
        points(strands.points(), strands.colours().length == 0 ? null : strands.colours());
        if (strands.areLoose()) {
            for (int i = 0; i < strands.pointCount(); i++) {
                out.write("p " + (points + i) + "\n");
            }
        }
        int first = points;
        for (int count : strands.counts()) {
            StringBuilder line = new StringBuilder("l");
            for (int i = 0; i < count; i++) {
                line.append(' ').append(first + i);
            }
            // A line of one point is none.
            if (count > 1) {
                out.write(line.append('\n').toString());
            }
            first += count;
        }
        points += strands.pointCount();
    }

    private void faces(Mesh mesh, int[] vertices, @Nullable Channel uv, @Nullable Channel normal) throws IOException {
        int corner = 0;
        for (int face = 0; face < mesh.faceCount(); face++) {
            StringBuilder line = new StringBuilder("f");
            int size = mesh.faceSizes()[face];
            for (int i = 0; i < size; i++) {
                int c = corner + (mesh.leftHanded() ? size - 1 - i : i);
                int point = mesh.corners()[c];
                line.append(' ').append(points + vertices[c]);
                if (uv != null || normal != null) {
                    line.append('/');
                }
                if (uv != null) {
                    line.append(uvs + uv.element(face, c, point));
                }
                if (normal != null) {
                    line.append('/').append(normals + normal.element(face, c, point));
                }
            }
            out.write(line.append('\n').toString());
            corner += size;
        }
    }

    private void points(float[] positions, float @Nullable [] colours) throws IOException {
        if (colours == null) {
            lines("v", positions, 3);
            return;
        }
        float[] both = new float[2 * positions.length];
        for (int i = 0; i < positions.length; i += 3) {
            System.arraycopy(positions, i, both, 2 * i, 3);
            for (int c = 0; c < 3; c++) {
                both[2 * i + 3 + c] = DisplayCurve.stored(colours[i + c]);
            }
        }
        lines("v", both, 6);
    }

    private void lines(String word, float[] data, int width) throws IOException {
        for (int i = 0; i < data.length; i += width) {
            StringBuilder line = new StringBuilder(word);
            for (int c = 0; c < width; c++) {
                line.append(' ').append(data[i + c]);
            }
            out.write(line.append('\n').toString());
        }
    }
}
