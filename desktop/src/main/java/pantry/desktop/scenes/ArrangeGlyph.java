package pantry.desktop.scenes;

import javafx.scene.layout.Pane;
import javafx.scene.shape.Line;
import javafx.scene.shape.Polygon;
import javafx.scene.shape.Rectangle;
import javafx.scene.shape.Shape;

/** Small pictures of how things come to stand: what is moved is pale, what it goes by is dark. */
final class ArrangeGlyph extends Pane {
    private static final double WIDTH = 38;
    private static final double HEIGHT = 24;
    private static final double[] LENGTHS = {16, 26, 10};

    private ArrangeGlyph(Shape... shapes) {
        setMinSize(WIDTH, HEIGHT);
        setMaxSize(WIDTH, HEIGHT);
        setMouseTransparent(true);
        getChildren().setAll(shapes);
    }

    /** @param share where along each bar the line is: 0 at their least sides, 1 at their greatest */
    static ArrangeGlyph inLine(double share) {
        double at = 4 + share * 30;
        Shape[] shapes = new Shape[LENGTHS.length + 1];
        for (int i = 0; i < LENGTHS.length; i++) {
            shapes[i] = thing(at - share * LENGTHS[i], 1 + 8 * i, LENGTHS[i], 6);
        }
        shapes[LENGTHS.length] = line(at);
        return new ArrangeGlyph(shapes);
    }

    static ArrangeGlyph gaps() {
        return new ArrangeGlyph(thing(1, 6, 8, 12), thing(14, 3, 10, 18), thing(29, 8, 8, 8));
    }

    static ArrangeGlyph mirrored() {
        return new ArrangeGlyph(
                styled(new Polygon(15, 3, 15, 21, 2, 21), "glyph-thing"),
                line(19),
                styled(new Polygon(23, 3, 23, 21, 36, 21), "glyph-other"));
    }

    /** @param behind whether it comes to stand on the greater side of the last one */
    static ArrangeGlyph nextTo(boolean behind) {
        return new ArrangeGlyph(other(13, 3, 12, 18), thing(behind ? 25 : 3, 9, 10, 12));
    }

    static ArrangeGlyph over() {
        return new ArrangeGlyph(other(7, 2, 24, 20), thing(14, 8, 10, 8));
    }

    private static Shape thing(double x, double y, double width, double height) {
        return styled(new Rectangle(x, y, width, height), "glyph-thing");
    }

    private static Shape other(double x, double y, double width, double height) {
        return styled(new Rectangle(x, y, width, height), "glyph-other");
    }

    private static Shape line(double x) {
        return styled(new Line(x, 0, x, HEIGHT), "glyph-line");
    }

    private static Shape styled(Shape shape, String style) {
        shape.getStyleClass().add(style);
        return shape;
    }
}
