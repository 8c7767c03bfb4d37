package pantry.twins;

import java.util.List;
import pantry.base.math.Matrix4;

/**
 * Meshes of one shape.
 *
 * @param members at least two, in the order in which they were given; the first is the one that all are told by
 * @param triangles of one of them
 */
public record TwinGroup(List<Member> members, int triangles) {
    /**
     * One mesh of a group.
     *
     * @param index among the meshes that were given
     * @param place from the first member's space to this one's: a similarity
     * @param deviation the farthest that a vertex of the first, so placed, is from its like
     * @param scale the size beside the first one's
     */
    public record Member(int index, Matrix4 place, double deviation, boolean mirrored, double scale) {}

    public TwinGroup {
        members = List.copyOf(members);
        if (members.size() < 2) {
            throw new IllegalArgumentException("twins are at least two");
        }
    }

    /** The greatest deviation of any member. */
    public double deviation() {
        return members.stream().mapToDouble(Member::deviation).max().orElse(0);
    }

    public boolean mirrored() {
        return members.stream().anyMatch(Member::mirrored);
    }

    /** The size beside the first one's of the member that differs most from it. */
    public double scale() {
        return members.stream()
                .map(Member::scale)
                .max(java.util.Comparator.comparingDouble(scale -> Math.abs(Math.log(scale))))
                .orElse(1.0);
    }

    /** The triangles that need not be stored where all share one. */
    public long triangles(boolean saved) {
        return (long) triangles * (saved ? members.size() - 1 : members.size());
    }
}
