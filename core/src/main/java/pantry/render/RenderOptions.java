package pantry.render;

import java.util.Set;

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
 * @param outline display colour of the outline
 */
public record RenderOptions(
        int background,
        boolean shadow,
        boolean grid,
        int gridColour,
        boolean flat,
        boolean edges,
        Set<String> selected,
        int outline) {
    /** No ground: pixels that see nothing are transparent but for the shadow. */
    public static final int CLEAR = -1;

    /** Paper, with a shadow and nothing else. */
    public static final RenderOptions PLAIN =
            new RenderOptions(0xFFFDF8, true, false, 0xDDD5C3, false, false, Set.of(), 0x2F6B57);

    public RenderOptions {
        selected = Set.copyOf(selected);
    }

    public RenderOptions withGrid(boolean show) {
        return new RenderOptions(background, shadow, show, gridColour, flat, edges, selected, outline);
    }

    public RenderOptions withSelected(Set<String> paths) {
        return new RenderOptions(background, shadow, grid, gridColour, flat, edges, paths, outline);
    }

    public RenderOptions withBackground(int colour) {
        return new RenderOptions(colour, shadow, grid, gridColour, flat, edges, selected, outline);
    }

    public RenderOptions withGridColour(int colour) {
        return new RenderOptions(background, shadow, grid, colour, flat, edges, selected, outline);
    }

    public RenderOptions withFlat(boolean flatFaces) {
        return new RenderOptions(background, shadow, grid, gridColour, flatFaces, edges, selected, outline);
    }

    public RenderOptions withEdges(boolean show) {
        return new RenderOptions(background, shadow, grid, gridColour, flat, show, selected, outline);
    }
}
