package pantry.desktop.reach;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.css.PseudoClass;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Label;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Pane;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.scene.shape.Rectangle;
import pantry.desktop.controls.Choice;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.reach.BoxTiles.Tile;
import pantry.desktop.session.Units;
import pantry.library.Asset;
import pantry.project.ProjectWeight;
import pantry.project.ProjectWeight.Box;
import pantry.project.ProjectWeight.Kind;
import pantry.project.ProjectWeight.Measure;
import pantry.project.Savings;

/** What projects weigh as boxes within boxes, with what would make them lighter below. */
final class WeightPane extends BorderPane {
    private static final PseudoClass LIT = PseudoClass.getPseudoClass("lit");
    private static final PseudoClass DIM = PseudoClass.getPseudoClass("dim");

    /** A name is written where there is room for a few letters of it, pixels. */
    private static final double LEAST_NAME = 44;

    private final WeightModel model;
    private final ReachModel reach;
    private final Choice<Measure> measure = new Choice<>();
    private final Label under = Controls.label("", Styles.FIGURE);
    private final Pane map = new Pane();
    private final VBox ways = new VBox(2);
    private final List<Region> shown = new ArrayList<>();
    private List<Tile> tiles = List.of();
    private Optional<Tile> chosen = Optional.empty();
    private Consumer<Box> onOpen = box -> {};
    private Consumer<Savings.Saving> onSaving = saving -> {};

    WeightPane(WeightModel model, ReachModel reach) {
        this.model = model;
        this.reach = reach;
        measure.setId("reach-measure");
        measure.getItems().setAll(Measure.values());
        measure.shownAs(Measure::words);
        measure.valueProperty().bindBidirectional(model.measureProperty());
        under.setMinWidth(0);
        HBox head = new HBox(12, measure, under);
        head.setAlignment(Pos.CENTER_LEFT);
        head.getStyleClass().add("weight-head");
        map.setId("reach-weight");
        map.setFocusTraversable(true);
        map.getStyleClass().add("weight-map");
        Rectangle clip = new Rectangle();
        clip.widthProperty().bind(map.widthProperty());
        clip.heightProperty().bind(map.heightProperty());
        map.setClip(clip);
        map.setMinSize(0, 0);
        map.widthProperty().addListener(change -> layOut());
        map.heightProperty().addListener(change -> layOut());
        map.setOnMouseMoved(
                event -> BoxTiles.at(tiles, event.getX(), event.getY()).ifPresent(this::tell));
        map.setOnMouseExited(event -> tellWhole());
        map.setOnMouseClicked(event -> {
            map.requestFocus();
            BoxTiles.at(tiles, event.getX(), event.getY()).ifPresent(tile -> onOpen.accept(tile.box()));
        });
        map.setOnKeyPressed(this::key);
        map.focusedProperty().addListener(change -> light());
        ways.setId("reach-ways");
        ways.getStyleClass().add("weight-ways");
        VBox below =
                new VBox(4, Controls.label("What would make it lighter", Styles.SECTION), Controls.scrolling(ways));
        below.getStyleClass().add("weight-below");
        below.setPrefHeight(196);
        below.setMinHeight(120);
        setTop(head);
        setCenter(map);
        setBottom(below);
        model.weightProperty().addListener(change -> show());
        model.measureProperty().addListener(change -> show());
        model.savingsProperty().addListener(change -> showWays());
        reach.subjectProperty().addListener(change -> light());
        show();
        showWays();
    }

    /** Called with a box that is clicked. */
    void setOnOpen(Consumer<Box> action) {
        onOpen = action;
    }

    /** Called with a way that is to be gone. */
    void setOnSaving(Consumer<Savings.Saving> action) {
        onSaving = action;
    }

    private void show() {
        chosen = Optional.empty();
        layOut();
        tellWhole();
    }

    private void layOut() {
        Measure of = model.measureProperty().get();
        tiles = model.weightProperty()
                .get()
                .map(weight -> BoxTiles.of(weight.whole(), of, map.getWidth(), map.getHeight()))
                .orElse(List.of());
        shown.clear();
        for (Tile tile : tiles) {
            shown.add(node(tile));
        }
        map.getChildren().setAll(shown);
        if (tiles.isEmpty()) {
            boolean weighing = model.weightProperty().get().isEmpty();
            Label nothing = Controls.label(
                    weighing ? "Weighing…" : "Nothing here has " + of.words().toLowerCase(Locale.ROOT) + ".",
                    Styles.FAINT);
            nothing.relocate(16, 16);
            map.getChildren().setAll(nothing);
        }
        light();
    }

    private static Region node(Tile tile) {
        HBox box = new HBox();
        box.getStyleClass()
                .addAll("weight-tile", "weight-" + tile.box().kind().name().toLowerCase(Locale.ROOT));
        if (tile.depth() > 2) {
            box.getStyleClass().add("weight-deep");
        }
        box.setMouseTransparent(true);
        box.resizeRelocate(
                Math.round(tile.x()),
                Math.round(tile.y()),
                Math.max(1, Math.round(tile.x() + tile.width()) - Math.round(tile.x())),
                Math.max(1, Math.round(tile.y() + tile.height()) - Math.round(tile.y())));
        box.setMinSize(0, 0);
        box.setPrefSize(tile.width(), tile.height());
        box.setManaged(false);
        if (tile.width() > LEAST_NAME && tile.height() >= BoxTiles.HEAD) {
            Label name = Controls.label(name(tile.box()));
            name.setMinWidth(0);
            HBox.setHgrow(name, Priority.ALWAYS);
            box.getChildren().add(name);
        }
        return box;
    }

    private static String name(Box box) {
        return box.version().isEmpty()
                ? box.name()
                : box.name() + (box.count() > 1 ? " × " + Units.count(box.count()) : "");
    }

    private void tellWhole() {
        chosen.ifPresentOrElse(
                this::tell,
                () -> under.setText(model.weightProperty()
                        .get()
                        .map(ProjectWeight::whole)
                        .map(whole -> amount(whole) + " in all")
                        .orElse("")));
    }

    private void tell(Tile tile) {
        Box box = tile.box();
        long all = model.weightProperty()
                .get()
                .map(weight -> weight.whole().amounts().of(measure.getValue()))
                .orElse(0L);
        under.setText(box.name() + (box.version().isEmpty() ? "" : " " + box.version())
                + (box.count() > 1 ? ", " + Units.count(box.count()) + " ×" : "") + ": " + amount(box)
                + (all > 0
                        ? String.format(
                                Locale.ROOT, ", %.1f %%", 100.0 * box.amounts().of(measure.getValue()) / all)
                        : ""));
    }

    private String amount(Box box) {
        return amount(measure.getValue(), box.amounts().of(measure.getValue()));
    }

    private static String amount(Measure of, long amount) {
        return of.isBytes()
                ? Units.bytes(amount)
                : Units.counted(amount, of == Measure.PLACEMENTS ? "placement" : "triangle");
    }

    private void key(KeyEvent event) {
        if (event.getCode() == KeyCode.ENTER) {
            chosen.ifPresent(tile -> onOpen.accept(tile.box()));
            event.consume();
        } else if (event.getCode().isArrowKey() && !tiles.isEmpty()) {
            int right = event.getCode() == KeyCode.RIGHT ? 1 : event.getCode() == KeyCode.LEFT ? -1 : 0;
            int down = event.getCode() == KeyCode.DOWN ? 1 : event.getCode() == KeyCode.UP ? -1 : 0;
            Optional<Tile> next = chosen.flatMap(tile -> BoxTiles.beside(tiles, tile, right, down));
            chosen = next.or(() -> chosen)
                    .or(() -> tiles.stream().filter(tile -> !tile.within()).findFirst());
            light();
            chosen.ifPresent(this::tell);
            event.consume();
        }
    }

    /** Lights up the asset that is looked at wherever it stands, and what the keys have chosen. */
    private void light() {
        Optional<Asset> asset = reach.asset();
        for (int i = 0; i < shown.size(); i++) {
            Tile tile = tiles.get(i);
            boolean own = asset.filter(each -> tile.box().path().equals(each.folder()))
                    .isPresent();
            shown.get(i)
                    .pseudoClassStateChanged(
                            LIT,
                            own
                                    || map.isFocused()
                                            && chosen.filter(tile::equals).isPresent());
            shown.get(i)
                    .pseudoClassStateChanged(
                            DIM,
                            asset.isPresent()
                                    && !own
                                    && !tile.within()
                                    && tile.box().kind() != Kind.SCENE);
        }
    }

    private void showWays() {
        ways.getChildren().clear();
        for (Savings.Saving saving : model.savingsProperty().get()) {
            ways.getChildren().add(way(saving));
        }
        if (ways.getChildren().isEmpty()) {
            ways.getChildren()
                    .add(Controls.label(
                            model.isPending() ? "Looking…" : "Nothing was found that would make it lighter.",
                            Styles.FAINT));
        }
    }

    private Node way(Savings.Saving saving) {
        Label share = Controls.label(String.format(Locale.ROOT, "%.1f %%", 100 * saving.share()), Styles.FIGURE);
        share.setMinWidth(56);
        share.setAlignment(Pos.CENTER_RIGHT);
        Label what = Controls.label(
                saving.asset().card().name() + ": " + saving.kind().words());
        what.setMinWidth(0);
        Label less = Controls.label(
                amount(saving.measure(), saving.saved()) + (saving.measure() == Measure.STORED ? " stored" : "")
                        + " less",
                Styles.FAINT);
        less.setMinWidth(Region.USE_PREF_SIZE);
        HBox line = new HBox(12, share, what, Controls.spring(), less);
        line.setAlignment(Pos.CENTER_LEFT);
        line.getStyleClass().add("weight-way");
        line.setOnMouseClicked(event -> onSaving.accept(saving));
        Controls.hint(
                line,
                saving.asset().card().name() + " " + saving.version() + " stands in "
                        + Units.counted(saving.scenes().size(), "scene") + ". " + hint(saving));
        return line;
    }

    private static String hint(Savings.Saving saving) {
        return switch (saving.kind()) {
            case PLACE_COPIES, ONE_VERSION -> "Click to plan it";
            case USE_PROXY -> "Click for its card; in Scenes, placements can be shown by their proxies";
            case MAKE_PROXY, SHARE_TWINS, SMALLER_TEXTURES -> "Click to open it in Prep";
        };
    }
}
