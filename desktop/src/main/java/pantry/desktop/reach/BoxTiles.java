package pantry.desktop.reach;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import pantry.project.ProjectWeight.Box;
import pantry.project.ProjectWeight.Measure;

/**
 * Boxes within boxes as rectangles whose areas are what they weigh, as near to squares as can be (Bruls, Huizing and van Wijk,
 * Squarified Treemaps, 2000; from memory).
 */
final class BoxTiles {
    /** Room for a box's name above what is in it, pixels. */
    static final double HEAD = 20;

    private static final double EDGE = 3;

    /** Nothing is shown within a box that is smaller, pixels. */
    private static final double LEAST = 26;

    private final Measure measure;
    private final List<Tile> tiles = new ArrayList<>();

    /**
     * A rectangle, in pixels.
     *
     * @param depth how many boxes it is within
     * @param within whether what is in it is shown
     */
    record Tile(Box box, int depth, double x, double y, double width, double height, boolean within) {
        boolean contains(double px, double py) {
            return px >= x && px < x + width && py >= y && py < y + height;
        }

        private double centreX() {
            return x + width / 2;
        }

        private double centreY() {
            return y + height / 2;
        }
    }

    private record Area(double x, double y, double width, double height) {}

    private BoxTiles(Measure measure) {
        this.measure = measure;
    }

    /** The tiles of what is in a box, each after the one that it is within. */
    static List<Tile> of(Box whole, Measure measure, double width, double height) {
        BoxTiles tiles = new BoxTiles(measure);
        Box root = whole;
        // A box around a single one says nothing.
        while (root.parts().size() == 1 && !root.parts().getFirst().parts().isEmpty()) {
            root = root.parts().getFirst();
        }
        if (width > 0 && height > 0) {
            tiles.fill(root, 0, new Area(0, 0, width, height));
        }
        return tiles.tiles;
    }

    private void fill(Box around, int depth, Area area) {
        List<Box> parts = around.parts().stream()
                .filter(part -> part.amounts().of(measure) > 0)
                .sorted(Comparator.comparingLong((Box part) -> -part.amounts().of(measure)))
                .toList();
        long whole = around.amounts().of(measure);
        if (parts.isEmpty() || whole <= 0) {
            return;
        }
        double scale = area.width * area.height / whole;
        List<Box> row = new ArrayList<>();
        Area left = area;
        for (Box part : parts) {
            double side = Math.min(left.width, left.height);
            if (!row.isEmpty() && worst(row, part, scale, side) > worst(row, null, scale, side)) {
                left = place(row, depth, scale, left);
                row.clear();
            }
            row.add(part);
        }
        place(row, depth, scale, left);
    }

    private double area(Box box, double scale) {
        return box.amounts().of(measure) * scale;
    }

    /** How far from a square the worst of a row would be. */
    private double worst(List<Box> row, @org.jspecify.annotations.Nullable Box more, double scale, double side) {
        double sum = more == null ? 0 : area(more, scale);
        double least = more == null ? Double.MAX_VALUE : sum;
        double most = sum;
        for (Box box : row) {
            double area = area(box, scale);
            sum += area;
            least = Math.min(least, area);
            most = Math.max(most, area);
        }
        return Math.max(side * side * most / (sum * sum), sum * sum / (side * side * least));
    }

    /** @return the area that is left */
    private Area place(List<Box> row, int depth, double scale, Area area) {
        double sum = row.stream().mapToDouble(box -> area(box, scale)).sum();
        boolean upright = area.width >= area.height;
        double thick = sum / (upright ? area.height : area.width);
        double along = upright ? area.y : area.x;
        for (Box box : row) {
            double length = area(box, scale) / thick;
            Area place = upright ? new Area(area.x, along, thick, length) : new Area(along, area.y, length, thick);
            add(box, depth, place);
            along += length;
        }
        return upright
                ? new Area(area.x + thick, area.y, Math.max(0, area.width - thick), area.height)
                : new Area(area.x, area.y + thick, area.width, Math.max(0, area.height - thick));
    }

    private void add(Box box, int depth, Area area) {
        boolean within = !box.parts().isEmpty() && area.width > 2 * LEAST && area.height > HEAD + LEAST;
        tiles.add(new Tile(box, depth, area.x, area.y, area.width, area.height, within));
        if (within) {
            fill(
                    box,
                    depth + 1,
                    new Area(area.x + EDGE, area.y + HEAD, area.width - 2 * EDGE, area.height - HEAD - EDGE));
        }
    }

    /** The innermost tile at a place. */
    static Optional<Tile> at(List<Tile> tiles, double x, double y) {
        return tiles.reversed().stream().filter(tile -> tile.contains(x, y)).findFirst();
    }

    /** The nearest tile without others in it, in a direction from another one. */
    static Optional<Tile> beside(List<Tile> tiles, Tile from, int right, int down) {
        return tiles.stream()
                .filter(tile -> !tile.within() && tile != from)
                .filter(tile ->
                        (tile.centreX() - from.centreX()) * right + (tile.centreY() - from.centreY()) * down > 1)
                .min(Comparator.comparingDouble(tile -> {
                    double across = Math.abs(tile.centreX() - from.centreX()) * Math.abs(down)
                            + Math.abs(tile.centreY() - from.centreY()) * Math.abs(right);
                    double along = Math.abs(tile.centreX() - from.centreX()) * Math.abs(right)
                            + Math.abs(tile.centreY() - from.centreY()) * Math.abs(down);
                    return along + 2 * across;
                }));
    }
}
