package pantry.catalogue;

import com.fasterxml.jackson.annotation.JsonIgnore;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import pantry.model.Facts;

/**
 * An asset as the index knows it.
 *
 * @param library the library's folder
 * @param folder the asset's folder
 * @param version the version shown: the ready one, or else the newest
 * @param versions how many there are
 * @param fields the house's own facts
 * @param parts the names of its objects
 * @param colours the names of the colours that are seen most of
 * @param uses the ids of the assets that it is made of
 * @param size width, height and depth, metres; nothing of what has no surface of its own, as a material or a motion
 * @param changed when the card was last written, milliseconds since 1970
 * @param shape what tells shapes apart (see {@link pantry.model.ShapeDescriptor})
 * @param moving what of it moves
 */
public record IndexedAsset(
        String id,
        String name,
        String kind,
        String shelf,
        String version,
        String status,
        int versions,
        long triangles,
        List<String> tags,
        String notes,
        String licence,
        String credit,
        Map<String, String> fields,
        List<String> materials,
        List<String> parts,
        List<String> colours,
        List<String> uses,
        double[] size,
        long changed,
        @JsonIgnore String shape,
        String library,
        String folder,
        Moving moving) {
    public IndexedAsset {
        // What shows it, as the ball of a material, is not as large as it.
        size = triangles == 0 ? new double[3] : size;
    }

    /** Whether it has surfaces of its own, and with them a size. */
    public boolean hasSurface() {
        return triangles > 0;
    }

    /**
     * What of an asset moves.
     *
     * @param bones the joints of its skeleton
     * @param motions their names
     * @param shapes the names of what its meshes can be moved towards
     * @param skeleton the same for all whose joints have the same names in the same order; empty where there are none
     */
    public record Moving(
            int bones,
            List<String> motions,
            List<String> shapes,
            @JsonIgnore String skeleton) {
        public static final Moving NOTHING = new Moving(0, List.of(), List.of(), "");

        static Moving of(Facts facts) {
            String joints = String.join("\n", facts.joints());
            return new Moving(
                    facts.bones(),
                    facts.motions().stream().map(Facts.MotionFact::name).toList(),
                    facts.shapes(),
                    joints.isEmpty()
                            ? ""
                            : UUID.nameUUIDFromBytes(joints.getBytes(StandardCharsets.UTF_8))
                                    .toString());
        }
    }

    /** Whether two stand for the same state of the same asset. */
    @Override
    public boolean equals(Object other) {
        return other instanceof IndexedAsset item
                && folder.equals(item.folder)
                && id.equals(item.id)
                && name.equals(item.name)
                && kind.equals(item.kind)
                && version.equals(item.version)
                && status.equals(item.status)
                && versions == item.versions
                && changed == item.changed
                && tags.equals(item.tags)
                && Arrays.equals(size, item.size);
    }

    @Override
    public int hashCode() {
        return folder.hashCode();
    }
}
