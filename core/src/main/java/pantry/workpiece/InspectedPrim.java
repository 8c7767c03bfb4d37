package pantry.workpiece;

import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.Mesh;
import pantry.usd.SdfPath;
import pantry.usd.compose.Prim;

/**
 * A prim as it is inspected.
 *
 * @param parent null at the top
 * @param local to its parent, in the stage's unit
 * @param world to the inspected space: metres, Y up
 * @param seen whether it is visible and active with all above it, and no definition for others to use
 * @param own whether it can be changed: its own layer says it, and no other file brings it in
 * @param surface its surface in its own space, without what cannot be one
 * @param material that it is bound to
 * @param box around it and all below it, in metres; of what is hidden too
 */
public record InspectedPrim(
        Prim prim,
        @Nullable InspectedPrim parent,
        List<InspectedPrim> children,
        Matrix4 local,
        Matrix4 world,
        boolean seen,
        String purpose,
        boolean own,
        Surface surface,
        Optional<SdfPath> material,
        Box3[] box) {
    public SdfPath path() {
        return prim.path();
    }

    public Optional<Mesh> mesh() {
        return surface.mesh();
    }

    /** Where it is held: the origin of its own space, in metres. */
    public Vec3 pivot() {
        return world.translationPart();
    }

    /** The box around its own surface; empty where it has none. */
    public Box3 ownBounds() {
        return mesh().map(mesh -> mesh.boundsIn(world)).orElse(Box3.EMPTY);
    }

    /** This and all below it, each before those below it. */
    public Stream<InspectedPrim> below() {
        return Stream.concat(Stream.of(this), children.stream().flatMap(InspectedPrim::below));
    }

    public String name() {
        return prim.name();
    }

    /** As it is called: its display name, or else its own. */
    public String title() {
        return prim.text("displayName").orElse(prim.name());
    }

    public Box3 bounds() {
        return box[0];
    }

    public boolean isInstance() {
        return prim.isInstance() || !prim.localReferences().isEmpty();
    }

    /** Whether it only holds others. */
    public boolean isGroup() {
        return (prim.typeName().equals("Xform")
                        || prim.typeName().equals("Scope")
                        || prim.typeName().isEmpty())
                && !isInstance();
    }

    /** Whether what it shows is rendered. */
    public boolean isDrawn() {
        return seen && (purpose.equals("default") || purpose.equals("render"));
    }

    @Override
    public boolean equals(@Nullable Object o) {
        return o == this;
    }

    @Override
    public int hashCode() {
        return System.identityHashCode(this);
    }

    @Override
    public String toString() {
        return path().toString();
    }
}
