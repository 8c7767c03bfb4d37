package pantry.desktop.shelves;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import javafx.animation.PauseTransition;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollBar;
import javafx.scene.layout.Pane;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import javafx.scene.shape.Line;
import javafx.util.Duration;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.catalogue.IndexedAsset;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.session.LatestWork;
import pantry.desktop.session.Units;
import pantry.desktop.view3d.View3d;
import pantry.model.Model;
import pantry.render.Camera;
import pantry.render.Figure;
import pantry.render.RenderScene;

/**
 * The chosen assets side by side on one ground line, at true scale, beside the standing figure. They are shown as large as the
 * height allows; a bar goes along the line where it is longer than the picture.
 */
final class LineUp extends StackPane {
    private static final int MOST = 40;

    /** Between two assets, of the mean of their widths, and at least in metres. */
    private static final double GAP = 0.25;

    private static final double LEAST_GAP = 0.12;
    private static final double FIGURE_WIDTH = 0.45;
    private static final double MARK_PIXELS = 24;

    /** A line of names, and the bar, pixels. */
    private static final double LINE = 36;

    private static final double BAR = 12;

    /** What is tallest takes so much of the height; below the ground, names have room. */
    private static final double FILLED = 0.6;

    private static final double GROUND = 0.22;

    /** The scale stands so far left of the figure, metres, and its figures left of it, pixels. */
    private static final double SCALE = 0.6;

    private static final double FIGURES = 64;

    private final ShelvesModel model;
    private final View3d view = new View3d();
    private final Pane labels = new Pane();
    private final Label note = Controls.label("", Styles.FAINT);
    private final ScrollBar along = new ScrollBar();
    private List<Standing> standing = List.of();
    private boolean following;
    private final LatestWork work;

    /** An asset, and where the middle of its foot is. */
    private record Standing(String name, double height, Vec3 foot) {}

    /** What is read in the background. */
    private record Lined(RenderScene scene, List<Standing> standing) {}

    LineUp(ShelvesModel model) {
        this.model = model;
        this.work = new LatestWork(model.session().background());
        view.setId("line-up");
        // Nearly from the front, and from far: what is taller looks taller, wherever it stands.
        view.cameraProperty().set(new Camera(Vec3.ZERO, 0, 4, 10, 12));
        labels.setMouseTransparent(true);
        StackPane.setAlignment(note, Pos.TOP_LEFT);
        note.getStyleClass().add("view-note");
        StackPane.setAlignment(along, Pos.BOTTOM_CENTER);
        along.setId("line-up-along");
        along.setAccessibleText("Along the line");
        along.setMaxHeight(Region.USE_PREF_SIZE);
        along.valueProperty().addListener(change -> go());
        getChildren().setAll(view, labels, note, along);
        view.cameraProperty().addListener(change -> moved());
        view.widthProperty().addListener(change -> moved());
        view.heightProperty().addListener(change -> moved());
    }

    View3d view() {
        return view;
    }

    /** Shows what is chosen; where that is less than two, the first of what is shown. */
    void layOut() {
        List<IndexedAsset> chosen = model.chosenProperty().get();
        List<IndexedAsset> items = chosen.size() > 1
                ? chosen
                : model.search()
                        .items()
                        .subList(0, Math.min(8, model.search().items().size()));
        // A copy: what is found may change while these are read.
        List<IndexedAsset> shown = List.copyOf(items.subList(0, Math.min(MOST, items.size())));
        note.setText(
                chosen.size() > 1
                        ? items.size() > MOST
                                ? "the first " + MOST + " of " + items.size() + " chosen assets"
                                : items.size() + " chosen assets"
                        : "the first " + shown.size() + " assets; choose those that are to stand here");
        work.quietly("lining up " + shown.size() + " assets", progress -> lined(shown), lined -> {
            standing = lined.standing();
            view.drawnProperty().set(lined.scene());
            PauseTransition laidOut = new PauseTransition(Duration.millis(30));
            laidOut.setOnFinished(event -> {
                view.cameraProperty().set(new Camera(Vec3.ZERO, 0, 4, 10, 12));
                frame();
                moved();
            });
            laidOut.play();
        });
    }

    /** Shows all that stands there; where that would leave the height unused, the first of it, larger. */
    private void frame() {
        List<Box3> boxes = new ArrayList<>(view.drawnProperty().get().boxes());
        double width = standing.getLast().foot().x();
        double aside = -SCALE - 0.14 * Math.max(2, width);
        boxes.add(new Box3(new Vec3(aside, 0, 0), new Vec3(aside, 0.01, 0.01)));
        Camera all = view.cameraProperty().get().framing(boxes, view.getWidth() / Math.max(1, view.getHeight()));
        double top = standing.stream().mapToDouble(Standing::height).max().orElse(1);
        double seen = metresPerPixel(all) * view.getHeight();
        if (top < seen * FILLED) {
            Camera near = all.dollied(top / (seen * FILLED));
            double high = top / FILLED;
            double across = high * view.getWidth() / Math.max(1, view.getHeight());
            all = near.withTarget(new Vec3(across / 2 - before(near), high * (0.5 - GROUND), 0));
        }
        view.cameraProperty().set(all);
    }

    private double metresPerPixel(Camera camera) {
        return camera.metresPerPixel((int) Math.max(1, view.getHeight()));
    }

    /** What is seen left of the figure, metres. */
    private double before(Camera camera) {
        return SCALE + FIGURES * metresPerPixel(camera);
    }

    /** The bar tells where along the line the view is, however it came there. */
    private void moved() {
        if (!standing.isEmpty() && view.getWidth() > 1) {
            Camera now = view.cameraProperty().get();
            double half = metresPerPixel(now) * view.getWidth() / 2;
            double least = half - before(now);
            double most = standing.getLast().foot().x() + half / 3 - half;
            along.setVisible(most > least);
            if (along.isVisible()) {
                following = true;
                along.setMin(least);
                along.setMax(most);
                along.setVisibleAmount((most - least) * Math.min(1, 2 * half / (most - least + 2 * half)));
                along.setUnitIncrement(half / 4);
                along.setBlockIncrement(half * 1.5);
                along.setValue(Math.clamp(view.cameraProperty().get().target().x(), least, most));
                following = false;
            }
        }
        placeLabels();
    }

    private void go() {
        if (!following) {
            Camera now = view.cameraProperty().get();
            Vec3 at = now.target();
            view.cameraProperty().set(now.withTarget(new Vec3(along.getValue(), at.y(), at.z())));
        }
    }

    private Lined lined(List<IndexedAsset> items) {
        List<Model.Node> nodes = new ArrayList<>();
        List<Standing> places = new ArrayList<>();
        nodes.add(Figure.at(Vec3.ZERO));
        places.add(new Standing("figure", Figure.HEIGHT, Vec3.ZERO));
        double x = FIGURE_WIDTH / 2;
        for (IndexedAsset item : items) {
            Optional<Model> asset = model.session().shelving().unlessRemoved(item, found -> model.session()
                    .workbench()
                    .preview(found, item.version())
                    .model(Map.of(), false));
            Box3 box = asset.map(Model::bounds).orElse(Box3.EMPTY);
            if (box.isEmpty()) {
                continue;
            }
            Vec3 size = box.size();
            x += Math.max(LEAST_GAP, size.x() * GAP);
            Vec3 foot = new Vec3(x + size.x() / 2, 0, 0);
            Matrix4 move = Matrix4.translation(new Vec3(
                    foot.x() - box.centre().x(), -box.min().y(), -box.centre().z()));
            nodes.add(new Model.Node(
                    item.name(),
                    "/" + places.size() + " " + item.name(),
                    move,
                    List.of(),
                    asset.get().roots(),
                    false));
            places.add(new Standing(item.name(), size.y(), foot.plus(new Vec3(0, 0, size.z() / 2))));
            x += size.x() + Math.max(LEAST_GAP, size.x() * GAP);
        }
        Model together = new Model("Line-up", nodes, Model.Extras.NONE);
        return new Lined(RenderScene.of(together, model.session().workbench().renderCache()), places);
    }

    /** The ground line, and an upright scale beside the figure with a mark at each metre, or as fits. */
    private void scale() {
        double top = standing.stream().mapToDouble(Standing::height).max().orElse(0);
        double end =
                standing.stream().mapToDouble(each -> each.foot().x()).max().orElse(0) + top / 4 + 1;
        labels.getChildren().add(line(new Vec3(-0.8, 0, 0), new Vec3(end, 0, 0)));
        double metre = view.project(Vec3.ZERO).y() - view.project(Vec3.UP).y();
        double step = 0.1;
        for (double rounder : new double[] {0.2, 0.5, 1, 2, 5, 10, 20, 50, 100}) {
            step = step * metre < MARK_PIXELS ? rounder : step;
        }
        labels.getChildren().add(line(new Vec3(-SCALE, 0, 0), new Vec3(-SCALE, Math.ceil(top / step) * step, 0)));
        for (int mark = 1; mark <= Math.ceil(top / step); mark++) {
            Vec3 at = new Vec3(-SCALE, mark * step, 0);
            labels.getChildren().add(line(at, at.plus(new Vec3(0.12, 0, 0))));
            Vec3 seen = view.project(at);
            Label figure = Controls.label(Units.length(mark * step), Styles.FIGURE, Styles.FAINT, "small");
            labels.getChildren().add(figure);
            figure.applyCss();
            figure.relocate(seen.x() - figure.prefWidth(-1) - 4, seen.y() - 8);
        }
    }

    private Line line(Vec3 from, Vec3 to) {
        Vec3 a = view.project(from);
        Vec3 b = view.project(to);
        Line line = new Line(a.x(), a.y(), b.x(), b.y());
        line.getStyleClass().add("scale-line");
        return line;
    }

    /**
     * Names hang below the feet; where they would lie on each other, they take turns at several heights, and where that has
     * no room either, a name is left out until it is gone nearer.
     */
    private void placeLabels() {
        labels.getChildren().clear();
        if (view.getWidth() < 10) {
            return;
        }
        scale();
        double[] ends = new double[4];
        for (Standing each : standing) {
            Vec3 at = view.project(each.foot());
            if (at.x() < 0 || at.x() > view.getWidth()) {
                continue;
            }
            VBox label = new VBox(
                    Controls.label(each.name()),
                    Controls.label(Units.length(each.height()), Styles.FIGURE, Styles.FAINT));
            label.setAlignment(Pos.CENTER);
            label.getStyleClass().add("line-up-label");
            labels.getChildren().add(label);
            label.applyCss();
            double width = label.prefWidth(-1);
            double left = at.x() - width / 2;
            int line = 0;
            double below = view.getHeight() - BAR - at.y() - 10;
            int lines = Math.clamp((int) (below / LINE), 1, ends.length);
            while (line < lines && ends[line] > left) {
                line++;
            }
            if (line == lines) {
                labels.getChildren().remove(label);
                continue;
            }
            ends[line] = left + width + 8;
            label.relocate(left, Math.min(view.getHeight() - 40, at.y() + 10 + line * LINE));
            label.resize(width, 34);
        }
    }
}
