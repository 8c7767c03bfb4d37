package pantry.mesh;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** Holes of a surface: rings of edges that belong to one face only. */
public final class Holes {
    private Holes() {}

    /**
     * The holes that one face can close: rings that touch no other ring.
     *
     * @param mostCorners larger ones are left out
     * @return for each the points, in the order in which a face that closes it passes them
     */
    public static List<int[]> of(Mesh mesh, int mostCorners) {
        int[] places = Welding.firstAtPlace(mesh.points());
        EdgeTable edges = new EdgeTable(mesh, places);
        Map<Integer, Integer> next = new HashMap<>();
        boolean[] crossed = {false};
        edges.forEach((low, high, from, to) -> {
            if (to - from == 1) {
                // The face that closes the hole passes the edge the other way.
                int start = edges.isBackwards(from) ? low : high;
                crossed[0] |= next.put(start, start == low ? high : low) != null;
            }
        });
        List<int[]> holes = new ArrayList<>();
        if (crossed[0]) {
            return holes;
        }
        while (!next.isEmpty()) {
            int first = next.keySet().iterator().next();
            List<Integer> ring = new ArrayList<>();
            Integer at = first;
            while (at != null) {
                ring.add(at);
                at = next.remove(at);
            }
            boolean closes = ring.size() > 3 && ring.getLast().equals(ring.getFirst());
            if (closes && ring.size() - 1 <= mostCorners) {
                holes.add(ring.subList(0, ring.size() - 1).stream()
                        .mapToInt(Integer::intValue)
                        .toArray());
            }
        }
        return holes;
    }

    /** The mesh with a face in each of some holes. What varies at its corners is taken from the corners beside them. */
    public static Mesh closed(Mesh mesh, List<int[]> holes) {
        int added = holes.stream().mapToInt(hole -> hole.length).sum();
        int[] sizes = Arrays.copyOf(mesh.faceSizes(), mesh.faceCount() + holes.size());
        int[] corners = Arrays.copyOf(mesh.corners(), mesh.corners().length + added);
        int[] cornerOf = new int[mesh.pointCount()];
        int[] faceOf = new int[mesh.pointCount()];
        int corner = 0;
        for (int face = 0; face < mesh.faceCount(); face++) {
            for (int i = 0; i < mesh.faceSizes()[face]; i++, corner++) {
                cornerOf[mesh.corners()[corner]] = corner;
                faceOf[mesh.corners()[corner]] = face;
            }
        }
        int[] oldCorner = new int[added];
        int[] oldFace = new int[holes.size()];
        int at = 0;
        for (int hole = 0; hole < holes.size(); hole++) {
            int[] ring = holes.get(hole);
            sizes[mesh.faceCount() + hole] = ring.length;
            oldFace[hole] = faceOf[ring[0]];
            for (int point : ring) {
                corners[mesh.corners().length + at] = point;
                oldCorner[at++] = cornerOf[point];
            }
        }
        return mesh.withChannels(mesh.points(), sizes, corners, channel -> switch (channel.per()) {
                    case MESH, POINT -> channel;
                    case FACE -> extended(channel, oldFace);
                    case CORNER -> extended(channel, oldCorner);
                })
                .withoutNormals();
    }

    private static Channel extended(Channel channel, int[] more) {
        float[] added = CornerData.picked(channel.data(), channel.width(), more);
        float[] all = Arrays.copyOf(channel.data(), channel.data().length + added.length);
        System.arraycopy(added, 0, all, channel.data().length, added.length);
        return new Channel(all, channel.width(), channel.per());
    }
}
