package pantry.desktop.scenes;

import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import javafx.css.PseudoClass;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ColorPicker;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import javafx.scene.paint.Color;
import org.kordamp.ikonli.javafx.FontIcon;
import pantry.desktop.controls.Choice;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.LibraryChoice;
import pantry.desktop.controls.Styles;
import pantry.desktop.controls.SuggestedWords;
import pantry.desktop.controls.WrappingRow;
import pantry.desktop.session.Units;
import pantry.model.Colour;
import pantry.scene.Placement;
import pantry.scene.PlacementParts;
import pantry.usd.SdfPath;
import pantry.usd.schema.TransformComponents;

/** The placement's slip: its place in typed figures, and what it shows. */
final class PlacementSlip extends BorderPane {
    private static final PseudoClass WRONG = PseudoClass.getPseudoClass("wrong");

    /** How figures may be entered. */
    private static final String ENTRY =
            "A figure or a sum, such as 0.31+2*0.5 or 30cm; +5 adds to what it is, *2 multiplies it."
                    + " Enter takes it over.";

    private final ScenesModel model;
    /** What the slip shows of what is selected. */
    enum Page {
        PLACE("Place"),
        ARRANGE("Arrange"),
        GROUP("Group"),
        LAY_OUT("Lay out"),
        HAND_ON("Hand on");

        private final String words;

        Page(String words) {
            this.words = words;
        }
    }

    private final TextField[] fields = new TextField[9];
    private final Pages forms;
    private final OverridesPane overrides;
    private final PartPane part;
    private final SharedPane shared;
    private final SwapPane swap;
    private final MotionPane motion;
    private final ToggleButton even = ViewToolbar.toggle(
            FigureGrid.SCALE, "scale-even", "Evenly: the other two follow; once more, each by itself");
    private final SectionPane section;
    private final WrappingRow pages = new WrappingRow(0);
    private Page page = Page.PLACE;
    private Optional<SceneSelection.Own> shown = Optional.empty();

    /** The pages that are the same whatever is selected. */
    record Pages(ArrangePane arrange, GroupPane group, LayOutPane layOut) {}

    /** @param enter opens a section where it stands */
    PlacementSlip(ScenesModel model, Pages forms, Consumer<SdfPath> enter) {
        this.model = model;
        this.section = new SectionPane(model, enter);
        this.forms = forms;
        this.overrides = new OverridesPane(model);
        this.part = new PartPane(model);
        this.shared = new SharedPane(model);
        this.swap = new SwapPane(model);
        this.motion = new MotionPane(model);
        even.getStyleClass().add("axis-lock");
        even.setSelected(true);
        ToggleGroup one = new ToggleGroup();
        for (Page each : Page.values()) {
            ToggleButton button = ViewToolbar.toggle(
                    each.words, "slip-" + each.name().toLowerCase(Locale.ROOT).replace('_', '-'), each.words);
            button.setToggleGroup(one);
            button.setSelected(each == page);
            button.setOnAction(event -> show(each));
            pages.getChildren().add(button);
        }
        pages.getStyleClass().add("slip-pages");
        getStyleClass().addAll(Styles.PANEL, "right");
        Controls.width(this, 22, 24);
        String[] names = {"move-x", "move-y", "move-z", "turn-x", "turn-y", "turn-z", "scale-x", "scale-y", "scale-z"};
        for (int i = 0; i < fields.length; i++) {
            fields[i] = field(names[i], i);
        }
        model.selectionProperty().addListener(change -> update());
        model.shownProperty().addListener(change -> update());
        update();
    }

    /** Shows a page of the slip. */
    void show(Page wanted) {
        page = wanted;
        ((ToggleButton) pages.getChildren().get(wanted.ordinal())).setSelected(true);
        update();
    }

    private TextField field(String id, int index) {
        TextField field = new TextField();
        field.setId(id);
        field.getStyleClass().add("number-field");
        Controls.hint(field, ENTRY);
        field.setOnAction(event -> take(field, index));
        field.focusedProperty().addListener((property, before, now) -> {
            if (!now) {
                take(field, index);
            }
        });
        return field;
    }

    private void take(TextField field, int index) {
        shown.ifPresent(own -> {
            double before = PlaceFigures.of(own.placing(), index);
            Optional<Double> typed = Figures.typed(field.getText(), before);
            if (typed.isPresent() && (index < 6 || typed.get() != 0)) {
                if (typed.get() != before && !field.getText().equals(Figures.show(before))) {
                    model.edits().move(own.path(), entered(own.placing(), index, typed.get()));
                }
                field.pseudoClassStateChanged(WRONG, false);
            } else if (field.isFocused()) {
                // It stays as it was typed, so that it can be put right.
                field.pseudoClassStateChanged(WRONG, true);
                Controls.hint(field, "This is no figure. Write 1.31, 0.31+2*0.5, 30cm, +5 to add, *2 to multiply.");
            } else {
                field.setText(Figures.show(before));
                field.pseudoClassStateChanged(WRONG, false);
                Controls.hint(field, ENTRY);
            }
        });
    }

    /** A place with a figure of it; of the scale, all three follow where it is even. */
    private TransformComponents entered(TransformComponents placing, int index, double figure) {
        double before = PlaceFigures.of(placing, index);
        return index >= 6 && even.isSelected() && before != 0
                ? placing.withScale(placing.scale().times(figure / before))
                : PlaceFigures.with(placing, index, figure);
    }

    private void update() {
        shown = model.selection().one();
        int count = model.selectionProperty().get().size();
        HBox head = new HBox(Controls.label(
                count == 0
                        ? "Slip"
                        : count == 1 ? name(model.selectionProperty().get()) : Units.count(count) + " objects",
                Styles.TITLE));
        head.setAlignment(Pos.CENTER_LEFT);
        head.getStyleClass().add(Styles.PANEL_TITLE);
        boolean parts = model.selection().isOfParts();
        setTop(count == 0 || parts ? head : new VBox(head, pages));
        VBox box = new VBox();
        box.getStyleClass().add("slip");
        if (count == 0) {
            box.getChildren()
                    .add(Controls.wrapped(
                            "Choose something in the view or in the list to see its place and what it shows; with Ctrl,"
                                    + " choose several, or draw a frame around them.",
                            Styles.FAINT));
        } else {
            switch (parts ? Page.PLACE : page) {
                case PLACE -> place(box);
                case ARRANGE -> box.getChildren().setAll(forms.arrange());
                case GROUP -> box.getChildren().setAll(forms.group());
                case LAY_OUT -> box.getChildren().setAll(forms.layOut());
                case HAND_ON -> {
                    section.show(shown.flatMap(SceneSelection.Own::placement));
                    box.getChildren().setAll(Controls.section("As a prefab of the library", asset()), section);
                }
            }
        }
        setCenter(Controls.scrolling(box));
    }

    private String name(Set<SdfPath> one) {
        return model.title(one.iterator().next());
    }

    private void place(VBox box) {
        Optional<PlacementParts.Part> inside = model.selection().onePart();
        if (!model.selection().isOfParts()) {
            box.getChildren().add(actions());
        }
        inside.ifPresent(each -> box.getChildren().add(part.cost(each)));
        shown.flatMap(own -> sharedNote(own.path())).ifPresent(box.getChildren()::add);
        shown.ifPresent(own -> {
            if (own.usual()) {
                for (int i = 0; i < fields.length; i++) {
                    fields[i].setText(Figures.show(PlaceFigures.of(own.placing(), i)));
                }
                box.getChildren()
                        .add(
                                inside.isPresent()
                                        ? Controls.section("Place in what it is inside of", table())
                                        : Controls.section("Place", table(), places()));
            } else {
                box.getChildren()
                        .add(Controls.wrapped(
                                "Its transform is of another form than move, turn and scale; steps change it.",
                                Styles.FAINT));
            }
        });
        inside.ifPresent(each -> {
            part.show(each);
            box.getChildren().add(part);
        });
        shown.flatMap(SceneSelection.Own::placement).ifPresent(placement -> shows(box, placement));
        if (shown.isEmpty()) {
            shared.show();
            box.getChildren().add(shared);
        }
        if (motion.show()) {
            box.getChildren().add(Controls.section("Motion", motion));
        }
        if (!model.several().placements().isEmpty()) {
            swap.show();
            box.getChildren().add(Controls.section("Swap for", swap));
        }
    }

    /** Says of something within a shared group that it is changed wherever that is used. */
    private Optional<VBox> sharedNote(SdfPath path) {
        long uses = model.sceneProperty()
                .get()
                .filter(open -> open.instancing().isShared(path))
                .map(open -> open.instancing().uses(path))
                .orElse(1L);
        if (uses < 2) {
            return Optional.empty();
        }
        VBox note = new VBox(Controls.wrapped("It is part of a group that is used " + Units.count(uses)
                + " times. What is changed here is changed in all of them; its place is told in the group's space."));
        note.getStyleClass().addAll("note-box", "info");
        return Optional.of(note);
    }

    private HBox places() {
        Button copy = small(Controls.button(
                "Copy place", "", "Keep these figures to give them to others", model.edits()::copyPlace));
        copy.setId("place-copy");
        Button give = small(
                Controls.button("Give place", "", "Give what is selected the kept figures", model.edits()::givePlace));
        give.setId("place-give");
        Button reset = small(Controls.button("Reset", "", "Take its own transform away", model.edits()::resetPlace));
        reset.setId("scene-reset");
        return new HBox(6, copy, give, reset);
    }

    private static Button small(Button button) {
        button.getStyleClass().add("small");
        return button;
    }

    private void shows(VBox box, Placement placement) {
        VBox what = Controls.section(
                "Shows",
                Controls.wrapped(SceneNames.source(placement)),
                held(placement),
                Controls.fact("placements of the same", Units.count(model.like(placement))));
        if (model.isSection(placement.path())) {
            what.getChildren().add(section.open(placement));
        }
        VBox version = new VBox();
        model.exports().whenShelved(placement, home -> version.getChildren().setAll(versions(placement, home)));
        what.getChildren().add(version);
        model.sceneProperty()
                .get()
                .flatMap(open -> open.stage().prim(placement.path()))
                .ifPresent(prim -> prim.variantSets().forEach((set, variants) -> {
                    ComboBox<String> choice = new Choice<>();
                    choice.getStyleClass().add("small");
                    choice.setId("variant-" + set);
                    choice.getItems().setAll(variants);
                    choice.setValue(prim.variantSelection(set).orElse(""));
                    choice.setOnAction(event -> model.edits().choose(set, choice.getValue()));
                    HBox line = new HBox(8, Controls.label(set, Styles.FAINT), Controls.spring(), choice);
                    line.setAlignment(Pos.CENTER_LEFT);
                    what.getChildren().add(line);
                }));
        what.getChildren().add(light(placement));
        VBox colours = new VBox();
        model.exports().whenShelved(placement, home -> colours.getChildren().setAll(colours(placement, home)));
        what.getChildren().add(colours);
        box.getChildren().add(what);
        if (overrides.show(placement)) {
            box.getChildren().add(Controls.section("Overrides", overrides));
        }
        if (placement.held() == Placement.Held.MISSING) {
            VBox note = new VBox(Controls.wrapped("The file is not there: " + placement.layer()
                    + ". The reference is kept, so that it shows again once the file is back."));
            note.getStyleClass().addAll("note-box", "wrong");
            box.getChildren().add(1, note);
        }
        if (placement.held() == Placement.Held.REFUSED) {
            box.getChildren().add(1, refused(placement));
        }
    }

    /** A scene may name only what lies with it; for any other folder somebody has to say yes, once. */
    private VBox refused(Placement placement) {
        Path folder = placement.layer().getParent();
        Button allow = Controls.button(
                "Allow this folder",
                "",
                "Let scenes name files below " + folder + ", now and later",
                () -> model.allow(folder));
        allow.setId("allow-folder");
        VBox note = new VBox(
                6,
                Controls.wrapped("Nothing was read from " + folder
                        + ", which lies outside of the scene's folder, its project and the libraries. Allow it only"
                        + " if you know why the scene names it."),
                allow);
        note.getStyleClass().addAll("note-box", "caution");
        return note;
    }

    /** Which version it holds on to. */
    private HBox versions(Placement placement, SceneExports.Shelved home) {
        String following = "follows what is ready";
        ComboBox<String> choice = new Choice<>();
        choice.getStyleClass().add("small");
        choice.setId("placement-version");
        choice.getItems().add(following);
        home.asset().versions().forEach(version -> choice.getItems().add("pinned to " + version));
        choice.setValue(placement.held() == Placement.Held.PINNED ? "pinned to " + placement.version() : following);
        Controls.hint(choice, "Which version it shows; what would be lost by that is said in the ledger");
        choice.setOnAction(event -> model.exports()
                .replace(
                        home.asset(),
                        choice.getValue().equals(following)
                                ? Optional.empty()
                                : Optional.of(choice.getValue().replace("pinned to ", ""))));
        HBox line = new HBox(8, Controls.label("version", Styles.FAINT), Controls.spring(), choice);
        line.setAlignment(Pos.CENTER_LEFT);
        return line;
    }

    private CheckBox light(Placement placement) {
        CheckBox light = new CheckBox("by its proxy, while working");
        light.setId("placement-proxy");
        light.setSelected(model.display().isByProxy(placement.path()));
        light.setOnAction(event -> model.display().showSelectedByProxy(light.isSelected()));
        return light;
    }

    private FigureGrid table() {
        return new FigureGrid(
                this::axis,
                List.of(
                        Controls.label(FigureGrid.MOVE, Styles.FAINT),
                        Controls.label(FigureGrid.TURN, Styles.FAINT),
                        even),
                index -> fields[index]);
    }

    /** An axis's name, which locks it. */
    private ToggleButton axis(int number) {
        String letter = new String[] {"x", "y", "z"}[number];
        ToggleButton axis = ViewToolbar.toggle(
                letter, "lock-" + letter, "Lock " + letter + ": nothing in this scene is moved along it by hand");
        axis.getStyleClass().add("axis-lock");
        axis.setMaxWidth(Double.MAX_VALUE);
        axis.setSelected(model.edits().lockedAxes().contains(number));
        axis.setGraphic(axis.isSelected() ? new FontIcon("remixal-lock-line") : null);
        axis.setOnAction(event -> {
            model.edits().lock(number, axis.isSelected());
            axis.setGraphic(axis.isSelected() ? new FontIcon("remixal-lock-line") : null);
        });
        return axis;
    }

    /** The colours that the asset's card lets be chosen. */
    private List<HBox> colours(Placement placement, SceneExports.Shelved home) {
        List<PlacementParts.Coloured> materials = model.sceneProperty()
                .get()
                .map(open -> open.parts().materials(placement.path()))
                .orElse(List.of());
        return materials.stream()
                .filter(each -> each.plain() && home.asset().card().colourable().contains(each.name()))
                .map(each -> {
                    ColorPicker picker = new ColorPicker(Color.rgb(
                            Colour.display(each.colour().r()),
                            Colour.display(each.colour().g()),
                            Colour.display(each.colour().b())));
                    picker.setId("colour-" + each.name());
                    picker.getStyleClass().addAll("button", "small");
                    picker.setOnAction(event -> model.change(
                            open -> open.parts().colour(model.selected(), each.name(), chosen(picker.getValue()))));
                    HBox line = new HBox(8, Controls.label(each.name(), Styles.FAINT), Controls.spring(), picker);
                    line.setAlignment(Pos.CENTER_LEFT);
                    return line;
                })
                .toList();
    }

    private static Colour chosen(Color colour) {
        return Colour.ofDisplay((int) Math.round(colour.getRed() * 255) << 16
                | (int) Math.round(colour.getGreen() * 255) << 8
                | (int) Math.round(colour.getBlue() * 255));
    }

    private static Label held(Placement placement) {
        return switch (placement.held()) {
            case PINNED -> Controls.label("pinned to " + placement.version(), "status");
            case FOLLOWING -> Controls.label("follows the ready version", "status", "good");
            case FILE -> Controls.label("a file outside the libraries", "status", "caution");
            case MISSING -> Controls.label("missing", "status", "wrong");
            case REFUSED -> Controls.label("not read", "status", "caution");
        };
    }

    /** Makes what is selected an asset, and places that instead. */
    private VBox asset() {
        TextField name = new TextField();
        name.setId("prefab-name");
        name.setPromptText("its name");
        TextField shelf = new TextField();
        shelf.setId("prefab-shelf");
        shelf.setPromptText("its shelf, such as Site/Groups");
        SuggestedWords.ofAll(shelf, model.session().shelving()::shelvesLike);
        Button make = Controls.button(
                "Put it on the shelf",
                "remixal-archive-line",
                "The placements stay uses of their assets; how they stand to each other is kept",
                () -> model.exports()
                        .makeAsset(name.getText().strip(), shelf.getText().strip()));
        make.setId("prefab-make");
        make.disableProperty()
                .bind(name.textProperty().isEmpty().or(shelf.textProperty().isEmpty()));
        LibraryChoice into =
                new LibraryChoice("prefab-into", "Into", model.session().shelving());
        return new VBox(6, name, into, shelf, make);
    }

    private FlowPane actions() {
        Button again = Controls.button(
                "Once more",
                "remixal-file-copy-line",
                "One more use of the same, a metre aside; what a group holds is shared (Ctrl+D)",
                model.edits()::duplicateSelected);
        again.setId("scene-once-more");
        Button own = Controls.button(
                "As own", "", "A copy that shares nothing with it (Ctrl+Shift+D)", model.edits()::copyAsOwn);
        own.setId("scene-as-own");
        Button hide = Controls.button("Hide", "", "Hide it, in every program; once more shows it", () -> model.edits()
                .hide(true));
        hide.setId("scene-hide");
        Button show =
                Controls.button("Show", "", "Show it again", () -> model.edits().hide(false));
        Button off = Controls.button("Switch off", "", "Switch it off: no part of the scene", () -> model.edits()
                .switchOn(false));
        off.setId("scene-off");
        Button on = Controls.button(
                "Switch on", "", "Switch it on again", () -> model.edits().switchOn(true));
        Button remove = Controls.button(
                "Remove",
                "remixal-delete-bin-line",
                "Take it out of the scene (Delete)",
                model.edits()::removeSelected);
        FlowPane row = new FlowPane(6, 6, again, own, hide, show, off, on, remove);
        row.getChildren().forEach(button -> button.getStyleClass().add("small"));
        return row;
    }
}
