package pantry.desktop.scenes;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import javafx.beans.InvalidationListener;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.Slider;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import org.kordamp.ikonli.javafx.FontIcon;
import pantry.base.Names;
import pantry.desktop.controls.Ask;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.view3d.View3d;
import pantry.render.Camera;
import pantry.scene.Focus;
import pantry.scene.Pictures;
import pantry.scene.Scene;

/** How the scene is looked at: the focuses by their numbers, directions, parallel or not, several views, a cut. */
final class ViewToolbar extends FlowPane {
    /** The focuses that every scene has, before those that it keeps. */
    private static final List<Focus> QUICK = List.of(
            new Focus("Full", Focus.Detail.FULL, Set.of(), Set.of(), Optional.empty()),
            new Focus("Light", Focus.Detail.LIGHT, Set.of(), Set.of(), Optional.empty()));

    /** Columns of a name's field, while nothing is typed in it and then. */
    private static final int SHORT = 4;

    private static final int LONG = 9;

    private final ScenesModel model;
    private final View3d view;
    private final HBox focuses = new HBox(0);
    private final HBox keeping = new HBox(6);
    private final TextField name = new TextField();
    private final ToggleButton parallel =
            toggle("Parallel", "look-parallel", "Parallel lines of sight, or perspective");
    private final ToggleButton cut = toggle("Cut", "look-cut", "Leave out what is in front of a plane");
    private final ViewCut cutting = new ViewCut();
    private final ToggleButton lit =
            toggle("Lamps", "look-lit", "Show the scene in the light of its own lamps, or in Pantry's (L)");
    private final Slider stops = new Slider(-4, 4, 0);
    private final Label lamps = Controls.label("", Styles.FAINT);
    private final HBox lighting = new HBox(6, stops, lamps);
    private List<Focus> shown = List.of();

    ViewToolbar(ScenesModel model, View3d view, ToggleButton measure, ComboBox<String> split) {
        super(6, 4);
        this.model = model;
        this.view = view;
        getStyleClass().addAll("look-bar", Styles.PANEL);
        name.setId("focus-name");
        name.setPromptText("Keep…");
        name.setPrefColumnCount(SHORT);
        name.focusedProperty().addListener((property, before, now) -> name.setPrefColumnCount(now ? LONG : SHORT));
        Controls.hint(name, "A name for how you look now: what is shown, how finely, from where; Enter keeps it");
        name.setOnAction(event -> keep());
        Button pictures = Controls.button(
                "",
                "remixal-camera-line",
                "Save a picture of each focus, with shadows, in the background",
                this::pictures);
        pictures.setId("focus-pictures");
        pictures.getStyleClass().addAll(Styles.QUIET, "small");
        HBox buttons = new HBox(
                0,
                direction("Above", "look-above", 0, 89.9),
                direction("Front", "look-front", 0, 0),
                direction("Side", "look-side", 90, 0));
        buttons.setAlignment(Pos.CENTER_LEFT);
        split.setPrefWidth(88);
        parallel.setOnAction(
                event -> view.cameraProperty().set(view.cameraProperty().get().parallel(parallel.isSelected())));
        view.cameraProperty().addListener((property, before, now) -> parallel.setSelected(now.isParallel()));
        cut.selectedProperty().bindBidirectional(cutting.onProperty());
        view.drawnProperty()
                .addListener(change -> cutting.over(view.drawnProperty().get().bounds()));
        InvalidationListener cutAnew = change ->
                view.optionsProperty().set(view.optionsProperty().get().withCut(cutting.plane()));
        cutting.onProperty().addListener(cutAnew);
        cutting.atProperty().addListener(cutAnew);
        cutting.axisProperty().addListener(cutAnew);
        cutting.otherSideProperty().addListener(cutAnew);
        model.sceneProperty().addListener(change -> cut.setSelected(false));
        lights();
        model.shownProperty().addListener(change -> update());
        model.drawers().focusProperty().addListener(change -> {
            shown = List.of();
            update();
        });
        name.getStyleClass().add("small");
        keeping.getChildren().setAll(focuses, name, pictures);
        keeping.setAlignment(Pos.CENTER_LEFT);
        getChildren().setAll(buttons, parallel, split, new SnapMenu(model.edits()), measure, cut, lit);
        setRowValignment(javafx.geometry.VPos.CENTER);
        update();
    }

    private void lights() {
        lit.selectedProperty().bindBidirectional(model.display().lampsProperty());
        stops.setId("look-stops");
        stops.setPrefWidth(90);
        Controls.hint(stops, "Brighter or darker than what is measured; double-click to go back to that");
        stops.setOnMouseClicked(event -> {
            if (event.getClickCount() == 2) {
                stops.setValue(0);
            }
        });
        stops.valueProperty().bindBidirectional(model.display().stopsProperty());
        lamps.setId("look-lamps");
        lighting.setAlignment(Pos.CENTER_LEFT);
        lighting.visibleProperty().bind(lit.selectedProperty());
        lighting.managedProperty().bind(lit.selectedProperty());
        model.shownProperty().addListener(change -> tellLamps());
        tellLamps();
    }

    private void tellLamps() {
        int count = model.shownProperty().get().lamps();
        stops.setVisible(count > 0);
        stops.setManaged(count > 0);
        lamps.setText(
                count == 0
                        ? "no light shines in it: shown in Pantry's"
                        : String.format(
                                Locale.ROOT,
                                "%d %s, %+.1f stops",
                                count,
                                count == 1 ? "light" : "lights",
                                model.display().stopsProperty().get()));
    }

    /** The plane that the scene is cut by. */
    ViewCut cutting() {
        return cutting;
    }

    /** What is set of the cut and the light while they are on, to be laid over the view. */
    VBox settings() {
        HBox cuts = CutMark.controls(cutting);
        VBox settings = new VBox(6, lighting, cuts);
        settings.getStyleClass().add("view-note");
        settings.setMaxSize(USE_PREF_SIZE, USE_PREF_SIZE);
        settings.visibleProperty().bind(lighting.visibleProperty().or(cuts.visibleProperty()));
        return settings;
    }

    /** The focuses by their numbers, and a field to keep another. */
    HBox focusRow() {
        return keeping;
    }

    static ToggleButton toggle(String text, String id, String hint) {
        ToggleButton toggle = new ToggleButton(text);
        toggle.setId(id);
        toggle.getStyleClass().add("small");
        toggle.setMinWidth(USE_PREF_SIZE);
        Controls.hint(toggle, hint);
        return toggle;
    }

    private Button direction(String text, String id, double yaw, double pitch) {
        Button button = Controls.button(text, "", "Look from there", () -> lookFrom(yaw, pitch));
        button.setId(id);
        button.getStyleClass().add("small");
        return button;
    }

    private void lookFrom(double yaw, double pitch) {
        Camera turned = view.cameraProperty().get().from(yaw, pitch);
        view.cameraProperty().set(turned);
        view.frameAll();
    }

    /** All focuses, by their numbers from 1. */
    private List<Focus> all() {
        List<Focus> all = new ArrayList<>(QUICK);
        model.sceneProperty().get().ifPresent(open -> all.addAll(open.focuses().all()));
        return all;
    }

    private void update() {
        List<Focus> all = all();
        if (all.equals(shown)) {
            return;
        }
        shown = all;
        focuses.getChildren().clear();
        String now = model.drawers().focusProperty().get().map(Focus::name).orElse("Full");
        for (int i = 0; i < all.size(); i++) {
            Focus focus = all.get(i);
            ToggleButton choice = toggle(
                    (i < 9 ? i + 1 + " " : "") + focus.name(),
                    "focus-" + Names.slug(focus.name()),
                    i < 9 ? "Look at the scene this way (" + (i + 1) + ")" : "Look at the scene this way");
            choice.setSelected(focus.name().equals(now));
            choice.setOnAction(event -> showFocus(focus));
            if (i >= QUICK.size()) {
                choice.setContextMenu(forget(focus));
            }
            focuses.getChildren().add(choice);
        }
    }

    private javafx.scene.control.ContextMenu forget(Focus focus) {
        javafx.scene.control.MenuItem item = new javafx.scene.control.MenuItem("Remove this focus");
        item.setOnAction(event -> model.drawers().removeFocus(focus.name()));
        return new javafx.scene.control.ContextMenu(item);
    }

    /** Looks in the way of a number, 1 to 9; nothing where there is none. */
    void showFocus(int number) {
        List<Focus> all = all();
        if (number >= 1 && number <= all.size()) {
            showFocus(all.get(number - 1));
        }
    }

    private void showFocus(Focus focus) {
        model.showFocus(Optional.of(focus));
        focus.from().ifPresent(eye -> view.cameraProperty().set(Pictures.camera(eye)));
        shown = List.of();
        update();
    }

    private void keep() {
        if (!name.getText().isBlank()) {
            String kept = name.getText().strip();
            model.keepFocus(kept, Pictures.eye(view.cameraProperty().get()));
            name.clear();
            view.requestFocus();
        }
    }

    private void pictures() {
        Ask.of(this, "A folder for the pictures").folder().ifPresent(this::pictures);
    }

    /** Writes a picture of how it looks now, and of each kept focus, in the background. */
    void pictures(Path folder) {
        Optional<Scene> open = model.sceneProperty().get();
        if (open.isEmpty()) {
            return;
        }
        Scene now = open.get().snapshot();
        boolean ownLight = model.display().lampsProperty().get();
        List<Focus> wanted = new ArrayList<>(now.focuses().all());
        wanted.add(new Focus(
                Names.stem(now.file().getFileName().toString()),
                Focus.Detail.FULL,
                Set.of(),
                Set.of(),
                Optional.of(Pictures.eye(view.cameraProperty().get()))));
        model.session()
                .run(
                        "drawing " + wanted.size() + " pictures",
                        progress -> {
                            Pictures pictures =
                                    new Pictures(model.session().workbench().renderCache());
                            for (int i = 0; i < wanted.size(); i++) {
                                progress.step(wanted.get(i).name(), (double) i / wanted.size());
                                Pictures.write(
                                        pictures.of(now, wanted.get(i), ownLight, 1600, 1000),
                                        folder.resolve(Names.slug(wanted.get(i).name()) + ".png"));
                            }
                            return wanted.size();
                        },
                        count -> model.session().told("wrote " + count + " pictures into " + folder.getFileName()));
    }

    /** A measure switch with its sign. */
    static ToggleButton measure() {
        ToggleButton measure =
                toggle("Measure", "look-measure", "Click points one after the other to measure along them (M)");
        measure.setGraphic(new FontIcon("remixmz-ruler-line"));
        return measure;
    }
}
