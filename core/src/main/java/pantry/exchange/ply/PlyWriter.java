package pantry.exchange.ply;

import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import pantry.exchange.format.ExportImages;
import pantry.exchange.format.ExportNotes;
import pantry.exchange.format.PlacedParts;
import pantry.exchange.format.PlacedParts.Placed;
import pantry.mesh.Channel;
import pantry.mesh.Mesh;
import pantry.mesh.Strands;
import pantry.mesh.VertexSplit;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.Model;
import pantry.model.Texture;

/**
 * Writes binary PLY: one surface of all meshes where they stand, with normals, texture coordinates and colours of the
 * points where some mesh has them, and the image in a comment where there is one for all, as is common practice. Colours
 * are display colours of a byte, as other programs expect them.
 */
public final class PlyWriter {
    private static final String FORMAT = "PLY";

    private final List<Placed> placed;
    private final List<Split> splits = new ArrayList<>();
    private final boolean withNormals;
    private final boolean withUvs;
    private final boolean withColours;

    /** A mesh whose points have one of everything; channels in the order normals, coordinates, colours. */
    private record Split(Mesh mesh, VertexSplit vertices) {}

    private PlyWriter(List<Placed> placed) {
        this.placed = placed;
        this.withNormals =
                placed.stream().allMatch(each -> each.mesh().normals().isPresent());
        this.withUvs = placed.stream().anyMatch(each -> each.mesh().uvs().isPresent());
        this.withColours = placed.stream().anyMatch(PlyWriter::isColoured);
        for (Placed each : placed) {
            Mesh mesh = each.mesh();
            List<Channel> channels = new ArrayList<>();
            if (withNormals) {
                channels.add(mesh.normals().orElseThrow());
            }
            if (withUvs) {
                channels.add(mesh.uvs().orElse(new Channel(new float[2], 2, Channel.Per.MESH)));
            }
            if (withColours) {
                channels.add(colours(each));
            }
            splits.add(new Split(mesh, VertexSplit.of(mesh, channels)));
        }
    }

    /** Whether a part has a colour that a surface without materials can have: of its points, or of its material. */
    private static boolean isColoured(Placed each) {
        return each.mesh().primvars().containsKey(Mesh.COLOUR)
                || !each.material().isNone()
                        && each.material().texture(Material.Slot.BASE).isEmpty();
    }

    private static Channel colours(Placed each) {
        Channel own = each.mesh().primvars().get(Mesh.COLOUR);
        if (own != null) {
            return own;
        }
        boolean plain = each.material().isNone()
                || each.material().texture(Material.Slot.BASE).isPresent();
        Colour base = plain ? Colour.WHITE : each.material().base();
        return new Channel(new float[] {base.r(), base.g(), base.b()}, 3, Channel.Per.MESH);
    }

    /**
     * Writes a model.
     *
     * @param file that is written
     * @param target where it will stand once it is whole
     * @param unit of the numbers, as a person says it
     */
    public static void write(Model model, Path file, Path target, String unit, ExportNotes notes) throws IOException {
        List<Placed> placed = PlacedParts.of(model);
        PlacedParts.noteStructure(model, FORMAT, notes);
        PlacedParts.noteChannels(placed, List.of(Mesh.COLOUR), FORMAT, notes);
        Optional<String> image = image(model, target, notes);
        if (isCloud(model)) {
            CloudWriter.write(placed, file, begun(unit));
            return;
        }
        PlyWriter writer = new PlyWriter(placed);
        try (OutputStream raw = Files.newOutputStream(file);
                BufferedOutputStream out = new BufferedOutputStream(raw, 1 << 16)) {
            out.write(writer.header(unit, image).getBytes(StandardCharsets.UTF_8));
            writer.vertices(out);
            writer.faces(out);
        }
    }

    /** Whether a model is nothing but loose points, which the format has; lines it has not, nor points beside surfaces. */
    public static boolean isCloud(Model model) {
        boolean[] all = {true};
        model.visit((owner, part, world) ->
                all[0] &= part.strands().filter(Strands::areLoose).isPresent());
        return all[0] && !model.meshes().isEmpty();
    }

    /** The image that all parts show; materials are noted otherwise. */
    private static Optional<String> image(Model model, Path target, ExportNotes notes) {
        List<Material> materials =
                model.materials().stream().filter(each -> !each.isNone()).toList();
        if (materials.isEmpty()) {
            return Optional.empty();
        }
        notes.left(FORMAT + " has no materials: of " + materials.size() + " their plain colours are written"
                + (materials.size() == 1 ? ", and the image of the colour where there is one" : ""));
        Optional<Texture> shown =
                materials.size() == 1 ? materials.getFirst().texture(Material.Slot.BASE) : Optional.empty();
        return shown.flatMap(texture -> new ExportImages(target, notes).path(texture));
    }

    /** How every header begins. */
    private static StringBuilder begun(String unit) {
        return new StringBuilder("ply\nformat binary_little_endian 1.0\ncomment Pantry; ")
                .append(unit)
                .append(", Y up\n");
    }

    private String header(String unit, Optional<String> image) {
        int points = splits.stream()
                .mapToInt(split -> split.vertices().positions().length / 3)
                .sum();
        int faces = placed.stream().mapToInt(each -> each.mesh().faceCount()).sum();
        StringBuilder header = begun(unit);
        image.ifPresent(
                path -> header.append("comment TextureFile ").append(path).append('\n'));
        header.append("element vertex ").append(points);
        header.append("\nproperty float x\nproperty float y\nproperty float z\n");
        if (withNormals) {
            header.append("property float nx\nproperty float ny\nproperty float nz\n");
        }
        if (withUvs) {
            header.append("property float s\nproperty float t\n");
        }
        if (withColours) {
            header.append("property uchar red\nproperty uchar green\nproperty uchar blue\n");
        }
        header.append("element face ").append(faces);
        return header.append("\nproperty list uint int vertex_indices\nend_header\n")
                .toString();
    }

    private void vertices(OutputStream out) throws IOException {
        int width = 12 + (withNormals ? 12 : 0) + (withUvs ? 8 : 0) + (withColours ? 3 : 0);
        ByteBuffer bytes = ByteBuffer.allocate(width).order(ByteOrder.LITTLE_ENDIAN);
        for (Split split : splits) {
            List<Channel> channels = split.vertices().channels();
            float[] positions = split.vertices().positions();
            for (int v = 0; v < positions.length / 3; v++) {
                bytes.clear();
                put(bytes, positions, 3, v);
                int at = 0;
                if (withNormals) {
                    put(bytes, channels.get(at).data(), 3, element(channels.get(at++), v));
                }
                if (withUvs) {
                    put(bytes, channels.get(at).data(), 2, element(channels.get(at++), v));
                }
                if (withColours) {
                    int element = element(channels.get(at), v);
                    for (int c = 0; c < 3; c++) {
                        bytes.put((byte) Colour.display(channels.get(at).data()[3 * element + c]));
                    }
                }
                out.write(bytes.array());
            }
        }
    }

    private static int element(Channel channel, int vertex) {
        return channel.per() == Channel.Per.MESH ? 0 : vertex;
    }

    private static void put(ByteBuffer bytes, float[] data, int width, int element) {
        for (int c = 0; c < width; c++) {
            bytes.putFloat(data[width * element + c]);
        }
    }

    private void faces(OutputStream out) throws IOException {
        int base = 0;
        for (Split split : splits) {
            int corner = 0;
            for (int size : split.mesh().faceSizes()) {
                ByteBuffer face = ByteBuffer.allocate(4 + 4 * size).order(ByteOrder.LITTLE_ENDIAN);
                face.putInt(size);
                for (int i = 0; i < size; i++) {
                    int from = corner + (split.mesh().leftHanded() ? size - 1 - i : i);
                    face.putInt(base + split.vertices().corners()[from]);
                }
                out.write(face.array());
                corner += size;
            }
            base += split.vertices().positions().length / 3;
        }
    }
}
