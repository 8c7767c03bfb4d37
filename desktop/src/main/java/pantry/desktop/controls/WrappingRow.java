package pantry.desktop.controls;

import java.util.ArrayList;
import java.util.List;
import javafx.geometry.Insets;
import javafx.geometry.Orientation;
import javafx.scene.Node;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Pane;
import javafx.scene.layout.Priority;

/**
 * Nodes beside each other as in a row, on further lines where there is no room for all. What is left of a line goes to a
 * node that grows; lines behind that one stand at the right.
 */
public final class WrappingRow extends Pane {
    private static final double BETWEEN_LINES = 6;

    private final double gap;

    /** @param gap between two nodes, pixels */
    public WrappingRow(double gap, Node... nodes) {
        this.gap = gap;
        getStyleClass().add("wrapping-row");
        getChildren().setAll(nodes);
    }

    /** Nodes of one line, and how wide and high they are together, pixels. */
    private record Line(List<Node> nodes, double width, double height, boolean isBehindSpring) {}

    private static boolean grows(Node node) {
        return HBox.getHgrow(node) == Priority.ALWAYS;
    }

    private List<Line> lines(double room) {
        List<Line> lines = new ArrayList<>();
        List<Node> line = new ArrayList<>();
        double width = 0;
        double height = 0;
        boolean springSeen = false;
        boolean behindSpring = false;
        for (Node node : getManagedChildren()) {
            double wide = Math.min(node.prefWidth(-1), room);
            if (!line.isEmpty() && width + gap + wide > room + 0.5) {
                lines.add(new Line(line, width, height, behindSpring));
                line = new ArrayList<>();
                width = 0;
                height = 0;
                behindSpring = springSeen;
            }
            width += (line.isEmpty() ? 0 : gap) + wide;
            height = Math.max(height, node.prefHeight(node.getContentBias() == Orientation.HORIZONTAL ? wide : -1));
            springSeen |= grows(node);
            line.add(node);
        }
        lines.add(new Line(line, width, height, behindSpring));
        return lines;
    }

    @Override
    public Orientation getContentBias() {
        return Orientation.HORIZONTAL;
    }

    @Override
    protected double computeMinWidth(double height) {
        Insets in = getInsets();
        return in.getLeft()
                + getManagedChildren().stream()
                        .mapToDouble(node -> node.minWidth(-1))
                        .max()
                        .orElse(0)
                + in.getRight();
    }

    @Override
    protected double computePrefWidth(double height) {
        Insets in = getInsets();
        double all = getManagedChildren().stream()
                .mapToDouble(node -> node.prefWidth(-1))
                .sum();
        return in.getLeft() + all + gap * Math.max(0, getManagedChildren().size() - 1) + in.getRight();
    }

    @Override
    protected double computeMinHeight(double width) {
        return computePrefHeight(width);
    }

    @Override
    protected double computePrefHeight(double width) {
        Insets in = getInsets();
        double room = width < 0 ? Double.MAX_VALUE : width - in.getLeft() - in.getRight();
        List<Line> lines = lines(room);
        return in.getTop()
                + lines.stream().mapToDouble(Line::height).sum()
                + BETWEEN_LINES * (lines.size() - 1)
                + in.getBottom();
    }

    @Override
    protected void layoutChildren() {
        Insets in = getInsets();
        double room = getWidth() - in.getLeft() - in.getRight();
        List<Line> lines = lines(room);
        double all = lines.stream().mapToDouble(Line::height).sum() + BETWEEN_LINES * (lines.size() - 1);
        double y = in.getTop() + Math.max(0, (getHeight() - in.getTop() - in.getBottom() - all) / 2);
        for (Line line : lines) {
            double spare = Math.max(0, room - line.width());
            double x = in.getLeft() + (line.isBehindSpring() ? spare : 0);
            for (Node node : line.nodes()) {
                double wide = Math.min(node.prefWidth(-1), room) + (grows(node) && !line.isBehindSpring() ? spare : 0);
                double high = Math.min(
                        node.prefHeight(node.getContentBias() == Orientation.HORIZONTAL ? wide : -1), line.height());
                node.resizeRelocate(
                        snapPositionX(x),
                        snapPositionY(y + (line.height() - high) / 2),
                        snapSizeX(wide),
                        snapSizeY(high));
                x += wide + gap;
            }
            y += line.height() + BETWEEN_LINES;
        }
    }
}
