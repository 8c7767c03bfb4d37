package pantry.desktop.prep;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.ProgressBar;
import javafx.scene.control.Spinner;
import javafx.scene.control.TextField;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import pantry.base.Progress;
import pantry.base.math.Vec3;
import pantry.desktop.controls.Choice;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.session.Units;
import pantry.intake.CollisionShape;
import pantry.mesh.Mesh;
import pantry.prep.tools.LevelsAndCollision;
import pantry.prep.tools.Proxy;

/** Makes stand-ins: boxes or a simplified surface, judged by their outlines; levels of detail; collision. */
final class ProxyPane extends VBox {
    private static final String BOXES = "boxes";
    private static final String TRIANGLES = "triangles";
    private static final String DISTANCE = "metres off";

    private final PrepModel model;
    private final PreviewPane preview;
    private final Spinner<Integer> boxes = Controls.counter(1, Proxy.MOST_BOXES, 6);
    private final TextField amount = new TextField("500");
    private final ComboBox<String> way = new Choice<>();
    private final VBox judged = new VBox(6);
    private final Button write;
    private Optional<Proxy> tried = Optional.empty();

    ProxyPane(PrepModel model, PreviewPane preview) {
        super(12);
        this.model = model;
        this.preview = preview;
        way.getItems().setAll(BOXES, TRIANGLES, DISTANCE);
        way.setValue(BOXES);
        way.setId("prep-proxy-way");
        way.setOnAction(event -> layOut());
        boxes.setId("prep-proxy-boxes");
        boxes.setPrefWidth(80);
        boxes.setEditable(true);
        Controls.chosenWhole(boxes, boxes.getEditor());
        amount.setPrefWidth(80);
        amount.setId("prep-proxy-amount");
        Button fit = Controls.button("Try it", "remixal-focus-3-line", "Fit it, and see how well it does", this::fit);
        fit.setId("prep-proxy-try");
        fit.disableProperty().bind(model.busyProperty());
        HBox of = new HBox(8, boxes, amount, way, Controls.spring(), fit);
        of.setAlignment(Pos.CENTER_LEFT);
        write = Controls.button(
                "Write it", "remixmz-save-line", "Put it into the working copy as its proxy", this::write);
        write.setId("prep-proxy-write");
        write.getStyleClass().add(Styles.PRIMARY);
        HBox done = new HBox(8, Controls.spring(), write);
        Button levels = Controls.button(
                "Write levels",
                "",
                "Half, a quarter and an eighth of the triangles, as variants",
                () -> model.change("Levels of detail", LevelsAndCollision::levels));
        levels.setId("prep-levels");
        ComboBox<String> hulls = new Choice<>();
        hulls.getItems().setAll("one box", "one hull", "3 hulls", "6 hulls", "12 hulls");
        hulls.setValue("one hull");
        Button collide = Controls.button("Write shapes", "", "Guide shapes by which it touches others", () -> {
            String wanted = hulls.getValue();
            int count = wanted.startsWith("one") ? 1 : Integer.parseInt(wanted.split(" ")[0]);
            CollisionShape shape = wanted.equals("one box") ? CollisionShape.BOX : CollisionShape.HULL;
            model.change(
                    "Collision by " + wanted,
                    piece -> LevelsAndCollision.collision(piece, shape, count, Progress.NONE));
        });
        HBox collision = new HBox(8, hulls, Controls.spring(), collide);
        HBox detail =
                new HBox(8, Controls.wrapped("half, a quarter, an eighth", Styles.FAINT), Controls.spring(), levels);
        detail.setAlignment(Pos.CENTER_LEFT);
        getChildren()
                .setAll(
                        Controls.wrapped(
                                "A stand-in that is shown while working; the original is rendered. It stands on the"
                                        + " same base, around the same middle.",
                                Styles.FAINT),
                        of,
                        judged,
                        done,
                        Controls.section("Levels of detail", detail),
                        Controls.section("Collision", collision));
        model.openedProperty().addListener((property, before, now) -> {
            if (before.map(Opened::subject).isEmpty()
                    || now.map(Opened::subject).isEmpty()
                    || before.get().subject() != now.get().subject()) {
                forget();
            }
        });
        layOut();
        forget();
    }

    private void layOut() {
        boolean some = way.getValue().equals(BOXES);
        boxes.setVisible(some);
        boxes.setManaged(some);
        amount.setVisible(!some);
        amount.setManaged(!some);
        if (way.getValue().equals(DISTANCE) && amount.getText().equals("500")) {
            amount.setText("0.02");
        } else if (way.getValue().equals(TRIANGLES) && amount.getText().equals("0.02")) {
            amount.setText("500");
        }
    }

    private void forget() {
        tried = Optional.empty();
        write.setDisable(true);
        judged.getChildren().setAll(Controls.wrapped("Try it to see how much of its outline it covers.", Styles.FAINT));
        preview.showMade(List.of());
    }

    boolean hasTried() {
        return tried.isPresent();
    }

    void fit() {
        String how = way.getValue();
        int count = boxes.getValue();
        Optional<Double> figure = number(amount.getText());
        if (!how.equals(BOXES) && figure.filter(value -> value > 0).isEmpty()) {
            judged.getChildren().setAll(Controls.wrapped(amount.getText() + " is no number above 0.", Styles.WRONG));
            return;
        }
        model.ask(
                "Fitting a proxy",
                piece -> progress -> switch (how) {
                    case BOXES -> Proxy.boxes(piece.model(), count, progress);
                    case TRIANGLES ->
                        Proxy.simplified(piece.model(), figure.orElseThrow().intValue(), progress);
                    default -> Proxy.within(piece.model(), figure.orElseThrow(), progress);
                },
                this::show);
    }

    private static Optional<Double> number(String text) {
        try {
            return Optional.of(Double.parseDouble(text.strip().replace(',', '.')));
        } catch (NumberFormatException e) {
            return Optional.empty();
        }
    }

    private void show(Proxy proxy) {
        tried = Optional.of(proxy);
        write.setDisable(false);
        GridPane grid = new GridPane();
        grid.setHgap(8);
        grid.setVgap(4);
        int row = 0;
        for (var each : proxy.overlap().entrySet()) {
            ProgressBar bar = new ProgressBar(each.getValue());
            bar.setPrefWidth(160);
            Label figure = Controls.label(percent(each.getValue()), Styles.FIGURE);
            grid.addRow(row++, Controls.label(each.getKey(), Styles.FAINT), bar, figure);
        }
        judged.getChildren()
                .setAll(
                        Controls.fact("made of", proxy.made().words(proxy.boxes())),
                        Controls.fact("triangles", Units.count(proxy.mesh().triangleCount())),
                        Controls.fact("outlines overlap by", percent(proxy.mean())),
                        grid);
        if (proxy.tried().size() > 1) {
            VBox ways = new VBox(2, Controls.label("Tried, the best of them taken", Styles.FAINT));
            proxy.tried().forEach((way, overlap) -> ways.getChildren()
                    .add(Controls.fact(way, "about " + Math.round(100 * overlap) + "\u202f%")));
            judged.getChildren().add(ways);
        }
        preview.showMade(List.of(new FindingsOverlay.Strokes(edges(proxy.mesh()), FindingsOverlay.Ink.MADE)));
    }

    private static String percent(double part) {
        return String.format(Locale.ROOT, "%.1f\u202f%%", 100 * part);
    }

    private static List<Vec3> edges(Mesh mesh) {
        List<Vec3> ends = new ArrayList<>();
        int start = 0;
        for (int size : mesh.faceSizes()) {
            for (int i = 0; i < size; i++) {
                ends.add(mesh.point(mesh.corners()[start + i]));
                ends.add(mesh.point(mesh.corners()[start + (i + 1) % size]));
            }
            start += size;
        }
        return ends;
    }

    private void write() {
        tried.ifPresent(proxy -> {
            model.change(
                    "Proxy of " + Units.count(proxy.mesh().triangleCount()) + " triangles",
                    piece -> Proxy.write(piece, proxy));
            preview.showMade(List.of());
        });
    }
}
