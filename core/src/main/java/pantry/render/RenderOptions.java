package pantry.render;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import pantry.base.math.Box3;
import pantry.base.math.Vec3;

/**
 * How a scene is drawn.
 *
 * @param background display colour 0xRRGGBB above and around, or {@link #CLEAR}
 * @param shadow whether things cast their soft shadow on the ground
 * @param grid whether the ground shows a line each metre (or each tenth or ten metres, as fits)
 * @param gridColour display colour of its lines
 * @param flat whether faces look flat rather than rounded
 * @param edges whether the triangles' edges are drawn
 * @param selected paths of objects to outline
 * @param parts of those that are outlined in part only: the boxes around these parts, metres
 * @param outline display colour of the outline
 * @param cut a plane in front of which nothing is drawn
 */
public record RenderOptions(
        int background,
        boolean shadow,
        boolean grid,
        int gridColour,
        boolean flat,
        boolean edges,
        Set<String> selected,
        Map<String, List<Box3>> parts,
        int outline,
        Optional<Cut> cut) {
    /**
     * A plane in front of which nothing is drawn, so that one sees into things.
     *
     * @param point of the plane, metres
     * @param normal a unit vector to the side that is left out
     */
    public record Cut(Vec3 point, Vec3 normal) {
        /** How far a point is on the side that is left out; not positive where it is drawn. */
        double beyond(Vec3 p) {
            return p.minus(point).dot(normal);
        }
    }

    /** Surfaces before a plain background, and nothing else. */
    public static RenderOptions bare(int background) {
        return new RenderOptions(background, false, false, 0, false, false, Set.of(), Map.of(), 0, Optional.empty());
    }

    /** No ground: pixels that see nothing are transparent but for the shadow. */
    public static final int CLEAR = -1;

    /** Paper, with a shadow and nothing else. */
    public static final RenderOptions PLAIN = new RenderOptions(
            0xFFFDF8, true, false, 0xDDD5C3, false, false, Set.of(), Map.of(), 0x2F6B57, Optional.empty());

    public RenderOptions {
        selected = Set.copyOf(selected);
        parts = Map.copyOf(parts);
    }

    public RenderOptions withGrid(boolean show) {
        return changed(next -> next.grid = show);
    }

    public RenderOptions withSelected(Set<String> paths) {
        return withSelected(paths, Map.of());
    }

    /** @param within of those of which only parts are outlined, the boxes around these parts, metres */
    public RenderOptions withSelected(Set<String> paths, Map<String, List<Box3>> within) {
        return changed(next -> {
            next.selected = paths;
            next.parts = within;
        });
    }

    /** With another colour of the line around what is selected. */
    public RenderOptions withOutline(int colour) {
        return changed(next -> next.outline = colour);
    }

    public RenderOptions withBackground(int colour) {
        return changed(next -> next.background = colour);
    }

    public RenderOptions withGridColour(int colour) {
        return changed(next -> next.gridColour = colour);
    }

    public RenderOptions withFlat(boolean flatFaces) {
        return changed(next -> next.flat = flatFaces);
    }

    public RenderOptions withEdges(boolean show) {
        return changed(next -> next.edges = show);
    }

    public RenderOptions withCut(Optional<Cut> plane) {
        return changed(next -> next.cut = plane);
    }

    private RenderOptions changed(Consumer<Builder> change) {
        Builder next = new Builder(this);
        change.accept(next);
        return next.build();
    }

    /** This, with some of it changed. */
    private static final class Builder {
        private int background;
        private boolean shadow;
        private boolean grid;
        private int gridColour;
        private boolean flat;
        private boolean edges;
        private Set<String> selected;
        private Map<String, List<Box3>> parts;
        private int outline;
        private Optional<Cut> cut;

        Builder(RenderOptions from) {
            background = from.background;
            shadow = from.shadow;
            grid = from.grid;
            gridColour = from.gridColour;
            flat = from.flat;
            edges = from.edges;
            selected = from.selected;
            parts = from.parts;
            outline = from.outline;
            cut = from.cut;
        }

        RenderOptions build() {
            return new RenderOptions(background, shadow, grid, gridColour, flat, edges, selected, parts, outline, cut);
        }
    }
}
