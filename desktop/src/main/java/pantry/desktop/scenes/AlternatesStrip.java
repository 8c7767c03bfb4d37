package pantry.desktop.scenes;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.MenuButton;
import javafx.scene.control.RadioMenuItem;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import org.kordamp.ikonli.javafx.FontIcon;
import pantry.desktop.controls.Ask;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.session.FxThread;
import pantry.scene.Alternates;
import pantry.scene.Pictures;
import pantry.scene.Scene;
import pantry.usd.SdfPath;

/** The scene's sets of alternates, of each of which one is switched in; and a row to make more. */
final class AlternatesStrip extends VBox {
    private static final double GAP = 8;

    private final ScenesModel model;
    private final HBox focuses;
    private final FlowPane sets = new FlowPane(GAP, 4);
    private final HBox more = new HBox(8);
    private final TextField set = new TextField();
    private final TextField name = new TextField();
    private final List<HBox> switches = new ArrayList<>();
    private final List<MenuButton> menus = new ArrayList<>();
    private final ToggleButton edit = new ToggleButton();
    private List<Alternates.Set> known = List.of();

    /** @param focuses stands in front of the alternates */
    AlternatesStrip(ScenesModel model, HBox focuses) {
        super(6);
        this.model = model;
        this.focuses = focuses;
        getStyleClass().add("alternates");
        set.setId("alternate-set");
        set.setPromptText("Set, such as layout");
        set.setPrefColumnCount(10);
        name.setId("alternate-name");
        name.setPromptText("Alternate, such as winter");
        name.setPrefColumnCount(12);
        Button make = Controls.button("Make", "", "Make an empty alternate and switch it in", this::make);
        make.setId("alternate-make");
        Button keep = Controls.button(
                "Put selected in", "", "Let what is selected be there only with this alternate", this::keep);
        keep.setId("alternate-keep");
        Button file =
                Controls.button("File…", "", "Let the alternate show a file that other scenes use too", this::file);
        Button sheet = Controls.button(
                "Sheet…",
                "remixal-layout-grid-line",
                "Write all combinations side by side as one picture",
                this::sheet);
        sheet.setId("alternate-sheet");
        Button remove =
                Controls.button("Remove", "", "Remove this alternate with all that is in it alone", this::remove);
        remove.setId("alternate-remove");
        for (Button button : List.of(make, keep, file, sheet, remove)) {
            button.getStyleClass().add("small");
        }
        more.setAlignment(Pos.CENTER_LEFT);
        more.getChildren().setAll(set, name, make, keep, file, remove, sheet);
        more.managedProperty().bind(more.visibleProperty());
        more.setVisible(false);
        getChildren().setAll(sets, more);
        edit.setAccessibleText("Make and change alternates");
        edit.setId("alternates-edit");
        edit.getStyleClass().addAll("small", Styles.QUIET);
        Controls.hint(edit, "Make sets of which one is switched in at a time: layouts, lightings, seasons");
        edit.setOnAction(event -> more.setVisible(edit.isSelected()));
        sets.widthProperty().addListener(change -> FxThread.later(this::fit));
        focuses.widthProperty().addListener(change -> FxThread.later(this::fit));
        model.shownProperty().addListener(change -> update());
        model.sceneProperty().addListener(change -> update());
        update();
    }

    private void update() {
        List<Alternates.Set> all =
                model.sceneProperty().get().map(open -> open.alternates().all()).orElse(List.of());
        if (all.equals(known) && !sets.getChildren().isEmpty()) {
            return;
        }
        known = all;
        switches.clear();
        menus.clear();
        for (Alternates.Set each : all) {
            switches.add(switches(each));
            menus.add(menu(each));
        }
        edit.setText(all.isEmpty() ? "Alternates…" : null);
        edit.setGraphic(all.isEmpty() ? null : new FontIcon("remixal-add-line"));
        edit.setSelected(more.isVisible());
        show(switches);
        FxThread.later(this::fit);
    }

    private void show(List<? extends Node> each) {
        sets.getChildren().setAll(focuses);
        sets.getChildren().addAll(each);
        sets.getChildren().add(edit);
    }

    /** Where the switches of all sets do not fit beside each other, each set is a menu; nothing where that is so. */
    private void fit() {
        if (switches.isEmpty() || sets.getWidth() <= 0) {
            return;
        }
        show(switches);
        sets.applyCss();
        double wanted = sets.getInsets().getLeft() + sets.getInsets().getRight() - GAP;
        for (Node node : sets.getChildren()) {
            wanted += node.prefWidth(-1) + GAP;
        }
        if (wanted > sets.getWidth()) {
            show(menus);
        }
    }

    private HBox switches(Alternates.Set each) {
        HBox row = new HBox(0, Controls.label(plain(each.name()) + " ", Styles.FAINT));
        row.setAlignment(Pos.CENTER_LEFT);
        ToggleGroup one = new ToggleGroup();
        for (String alternate : each.alternates()) {
            ToggleButton choice = new ToggleButton(plain(alternate));
            choice.setId(id(each, alternate));
            choice.getStyleClass().add("small");
            choice.setToggleGroup(one);
            choice.setSelected(alternate.equals(each.chosen()));
            Controls.hint(choice, "Switch it in; the others of " + each.name() + " are switched out");
            choice.setOnAction(event -> switchTo(each, alternate));
            row.getChildren().add(choice);
        }
        return row;
    }

    private MenuButton menu(Alternates.Set each) {
        MenuButton menu = new MenuButton(plain(each.name()) + ": " + plain(each.chosen()));
        menu.setId("alternates-" + each.name());
        menu.getStyleClass().add("small");
        menu.setMinWidth(USE_PREF_SIZE);
        Controls.hint(menu, "What is switched in of " + each.name());
        for (String alternate : each.alternates()) {
            RadioMenuItem item = new RadioMenuItem(plain(alternate));
            item.setId(id(each, alternate));
            item.setSelected(alternate.equals(each.chosen()));
            item.setOnAction(event -> switchTo(each, alternate));
            menu.getItems().add(item);
        }
        return menu;
    }

    private static String id(Alternates.Set each, String alternate) {
        return "alternate-" + each.name() + "-" + alternate;
    }

    private static String plain(String name) {
        return name.replace('_', ' ');
    }

    private void switchTo(Alternates.Set each, String alternate) {
        set.setText(each.name());
        name.setText(alternate);
        model.switchTo(each.name(), alternate);
    }

    private void make() {
        model.change(open ->
                open.alternates().add(set.getText().strip(), name.getText().strip()));
    }

    private void keep() {
        List<SdfPath> chosen = List.copyOf(model.selectionProperty().get());
        model.change(open -> {
            if (chosen.isEmpty()) {
                throw new pantry.scene.SceneException(
                        open.file(), "select what is to be there only with the alternate");
            }
            open.alternates().keep(set.getText().strip(), name.getText().strip(), chosen);
        });
    }

    private void remove() {
        model.change(open ->
                open.alternates().remove(set.getText().strip(), name.getText().strip()));
    }

    private void file() {
        Ask.of(this, "A scene for " + name.getText()).in(folder()).file().ifPresent(this::refer);
    }

    /** Lets the alternate that is named show a file. */
    void refer(Path file) {
        String named = name.getText().strip();
        model.change(open -> open.alternates().refer(set.getText().strip(), named, named, file));
    }

    private void sheet() {
        Ask.of(this, "All combinations as a picture")
                .in(folder())
                .named("alternates.png")
                .saveAs()
                .ifPresent(this::sheet);
    }

    private Optional<Path> folder() {
        return model.sceneProperty().get().map(open -> open.file().getParent());
    }

    /** Writes all combinations as a picture, in the background. */
    void sheet(Path file) {
        model.sceneProperty().get().map(Scene::snapshot).ifPresent(now -> model.session()
                .run(
                        "drawing " + now.alternates().combinations().size() + " combinations",
                        progress -> {
                            Pictures pictures =
                                    new Pictures(model.session().workbench().renderCache());
                            Pictures.write(pictures.sheet(now, 480, progress), file);
                            return file;
                        },
                        done -> model.session().told("wrote " + file.getFileName())));
    }
}
