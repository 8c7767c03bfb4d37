package pantry.model;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.WeakHashMap;
import pantry.base.ImageTiles;
import pantry.mesh.Channel;
import pantry.mesh.Mesh;

/**
 * Images in tiles, one for each unit square of texture coordinates: the square from u, v on has the number
 * {@code 1001 + u + 10 v}, which stands in the names of files for {@value ImageTiles#NUMBER} (UDIM; common practice, and as
 * OpenUSD's UsdPreviewSurface has it). What is drawn and handed out has a material for each tile.
 */
public final class UdimTiles {
    /** Of each mesh, its faces by tile; so that what stands in several places, or is read again, is one mesh still. */
    private static final Map<Mesh, Map<Integer, Mesh>> KNOWN = Collections.synchronizedMap(new WeakHashMap<>());

    private UdimTiles() {}

    /** A model of which no part spreads over several tiles. */
    public static Model split(Model model) {
        boolean any = model.materials().stream().anyMatch(UdimTiles::isTiled);
        return any ? model.withPartsOf(UdimTiles::split) : model;
    }

    /** A part as one for each tile that it spreads over; the part itself where that is the first alone. */
    public static List<Model.Part> split(Model.Part part) {
        if (!isTiled(part.material()) || part.mesh().uvs().isEmpty()) {
            return List.of(part);
        }
        Map<Integer, Mesh> tiles = KNOWN.computeIfAbsent(part.mesh(), UdimTiles::byTile);
        if (tiles.isEmpty()) {
            return List.of(part);
        }
        List<Model.Part> parts = new ArrayList<>();
        tiles.forEach((number, mesh) -> parts.add(new Model.Part(mesh, on(part.material(), number))));
        return parts;
    }

    private static boolean isTiled(Material material) {
        return material.textures().values().stream().anyMatch(Texture::isTiled);
    }

    /** The material as it is on a tile; without the images that it does not have there. */
    private static Material on(Material material, int number) {
        Material made = material.named(material.title() + " " + number);
        for (Map.Entry<Material.Slot, Texture> each : material.textures().entrySet()) {
            if (each.getValue().isTiled()) {
                Optional<Texture> tile = each.getValue().tile(number);
                made = tile.isPresent() ? made.with(each.getKey(), tile.get()) : made.without(each.getKey());
            }
        }
        return made;
    }

    /** A mesh's faces by tile, with coordinates from 0 to 1; empty where all are on the first. */
    private static Map<Integer, Mesh> byTile(Mesh mesh) {
        Channel uvs = mesh.uvs().orElseThrow();
        Map<Integer, List<Integer>> faces = new TreeMap<>();
        int corner = 0;
        for (int face = 0; face < mesh.faceCount(); face++) {
            int size = mesh.faceSizes()[face];
            double u = 0;
            double v = 0;
            for (int i = 0; i < size; i++) {
                int at = 2 * (uvs.per() == Channel.Per.CORNER ? corner + i : mesh.corners()[corner + i]);
                u += uvs.data()[at] / size;
                v += uvs.data()[at + 1] / size;
            }
            corner += size;
            faces.computeIfAbsent(number(u, v), tile -> new ArrayList<>()).add(face);
        }
        if (faces.keySet().equals(java.util.Set.of(ImageTiles.FIRST))) {
            return Map.of();
        }
        Map<Integer, Mesh> tiles = new TreeMap<>();
        faces.forEach((number, some) -> {
            Mesh own = mesh.faces(some.stream().mapToInt(Integer::intValue).toArray());
            Channel there = own.uvs().orElseThrow();
            float[] moved = there.data().clone();
            for (int i = 0; i < moved.length; i += 2) {
                moved[i] -= (number - ImageTiles.FIRST) % COLUMNS;
                moved[i + 1] -= (float) ((number - ImageTiles.FIRST) / COLUMNS);
            }
            tiles.put(number, own.withUvs(new Channel(moved, 2, there.per())));
        });
        return tiles;
    }

    private static final int COLUMNS = 10;

    /** What lies beyond all tiles is on the first, as without tiles. */
    private static int number(double u, double v) {
        int column = (int) Math.floor(u);
        int row = (int) Math.floor(v);
        boolean there = column >= 0 && column < COLUMNS && row >= 0 && row < ImageTiles.MOST / COLUMNS;
        return there ? ImageTiles.FIRST + column + COLUMNS * row : ImageTiles.FIRST;
    }
}
