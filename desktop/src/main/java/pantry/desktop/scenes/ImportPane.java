package pantry.desktop.scenes;

import java.awt.image.BufferedImage;
import java.io.ByteArrayInputStream;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import javafx.beans.binding.Bindings;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.image.Image;
import javafx.scene.image.ImageView;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import org.kordamp.ikonli.javafx.FontIcon;
import pantry.base.Names;
import pantry.base.Png;
import pantry.base.math.Vec3;
import pantry.desktop.controls.Ask;
import pantry.desktop.controls.Choice;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.session.Units;
import pantry.model.Model;
import pantry.render.Thumbnails;
import pantry.scene.ImportSource;
import pantry.usd.SdfPath;

/** What another file holds, as pictures in sets; below them what comes along, what clashes, and where it goes. */
final class ImportPane extends BorderPane {
    private static final int PICTURE = 84;

    private final ImportModel model;
    private final ScenesModel scenes;
    private final Supplier<Vec3> lookedAt;
    private final VBox sets = new VBox(14);
    private final ConflictList clashes;
    private final VBox needs = new VBox(2);
    private final VBox lacks = new VBox(6);
    private final TextField name = new TextField();
    private final TextField drawer = new TextField();
    private final ComboBox<ImportModel.Target> target = new Choice<>();
    private final TextField search = new TextField();
    private final Set<SdfPath> unfolded = new HashSet<>();
    private final Label title = Controls.label("", Styles.TITLE);
    private final CheckBox linked = new CheckBox("placements stay uses of their assets");
    private final Button bring;
    private final Button refer;
    private final Map<SdfPath, Image> pictures = new HashMap<>();
    private final Map<SdfPath, List<CheckBox>> ticks = new HashMap<>();
    private final Map<CheckBox, List<SdfPath>> heads = new HashMap<>();

    /** What each picture's tick stands for. */
    private final Map<CheckBox, List<SdfPath>> together = new HashMap<>();

    private ImportModel.Order order = ImportModel.Order.KIND;
    private Path shownFile = Path.of("");
    private boolean ticking;
    private boolean drawn;

    /** @param lookedAt where the view looks, metres */
    ImportPane(ImportModel model, ScenesModel scenes, Supplier<Vec3> lookedAt) {
        this.model = model;
        this.scenes = scenes;
        this.lookedAt = lookedAt;
        this.clashes = new ConflictList(model, scenes);
        getStyleClass().add("bring");
        Button close = Controls.button("Close", "remixal-close-line", "Bring nothing in (Esc)", model::close);
        close.setId("bring-close");
        close.getStyleClass().add(Styles.QUIET);
        search.setId("bring-search");
        search.setPromptText("Find a name");
        search.setPrefColumnCount(9);
        search.textProperty().addListener(change -> fill());
        Button all = Controls.button("All", "", "Tick all that is shown", () -> chooseShown(true));
        all.setId("bring-all");
        Button none = Controls.button("None", "", "Untick all that is shown", () -> chooseShown(false));
        none.setId("bring-none");
        HBox head = new HBox(8, title, Controls.spring(), close);
        head.setAlignment(Pos.CENTER_LEFT);
        head.getStyleClass().addAll(Styles.PANEL, Styles.PANEL_TITLE);
        HBox looking = new HBox(8, search, all, none, Controls.spring(), orders());
        looking.setAlignment(Pos.CENTER_LEFT);
        looking.getStyleClass().addAll(Styles.PANEL, "strip");
        all.getStyleClass().add("small");
        none.getStyleClass().add("small");
        setTop(new VBox(head, looking));
        sets.getStyleClass().add("bring-sets");
        setCenter(Controls.scrolling(sets));
        bring = Controls.button(
                "Bring in",
                "remixal-download-2-line",
                "Copy what is ticked into the scene",
                () -> bring(ImportModel.Way.COPIED));
        bring.setId("bring-do");
        bring.getStyleClass().add(Styles.PRIMARY);
        refer = Controls.button(
                "Refer to the file",
                "remixal-links-line",
                "Use it by a live link instead: what changes in the file changes here. Tick one thing to refer to that alone",
                () -> bring(ImportModel.Way.REFERRED));
        refer.setId("bring-refer");
        setBottom(decisions());
        model.sourceProperty().addListener(change -> showSource());
        model.chosenProperty().addListener(change -> showChosen());
        model.searchesProperty().addListener(change -> showChosen());
        model.allowMissingProperty().addListener(change -> showChosen());
    }

    private HBox orders() {
        HBox row = new HBox(0);
        ToggleGroup one = new ToggleGroup();
        for (ImportModel.Order each : ImportModel.Order.values()) {
            ToggleButton button = ViewToolbar.toggle(
                    each.toString(), "bring-" + each.name().toLowerCase(Locale.ROOT), "Order things " + each);
            button.setToggleGroup(one);
            button.setSelected(each == order);
            button.setOnAction(event -> {
                button.setSelected(true);
                order = each;
                fill();
            });
            row.getChildren().add(button);
        }
        row.setAlignment(Pos.CENTER);
        return row;
    }

    private VBox decisions() {
        name.setId("bring-name");
        name.setPromptText("Name of its group");
        name.textProperty().addListener(change -> showClashes());
        drawer.setId("bring-drawer");
        drawer.setPromptText("Drawer, if any");
        target.getItems().setAll(ImportModel.Target.values());
        target.setValue(ImportModel.Target.AS_IT_STANDS);
        target.setId("bring-target");
        linked.setId("bring-linked");
        Controls.hint(linked, "Otherwise what they show is copied, and nothing refers anywhere");
        linked.setOnAction(event -> model.sourceProperty()
                .get()
                .ifPresent(read -> model.open(
                        read.file(), linked.isSelected() ? ImportSource.Links.KEPT : ImportSource.Links.COPIED)));
        Label as = Controls.label("as", Styles.FAINT);
        as.setMinWidth(USE_PREF_SIZE);
        HBox where = new HBox(8, as, name, drawer, target);
        where.setAlignment(Pos.CENTER_LEFT);
        HBox.setHgrow(name, Priority.ALWAYS);
        HBox row = new HBox(8, linked, Controls.spring(), refer, bring);
        row.setAlignment(Pos.CENTER_LEFT);
        needs.managedProperty().bind(Bindings.isNotEmpty(needs.getChildren()));
        lacks.managedProperty().bind(Bindings.isNotEmpty(lacks.getChildren()));
        VBox box = new VBox(8, needs, lacks, clashes, where, row);
        box.getStyleClass().addAll(Styles.PANEL, "bring-decisions");
        return box;
    }

    private void showSource() {
        pictures.clear();
        clashes.clear();
        drawn = false;
        Optional<ImportSource> source = model.sourceProperty().get();
        if (source.isEmpty()) {
            sets.getChildren().clear();
            return;
        }
        title.setText("Bring in from " + source.get().file().getFileName());
        if (name.getText().isBlank() || !source.get().file().equals(shownFile)) {
            name.setText(model.usualName());
            drawer.clear();
        }
        shownFile = source.get().file();
        linked.setSelected(model.links() == ImportSource.Links.KEPT);
        unfolded.clear();
        search.clear();
        draw(source.get(), model.stacked(model.importables()));
        fill();
    }

    /** Draws the pictures one after the other, in the background. */
    private void draw(ImportSource source, List<ImportModel.Stack> stacks) {
        scenes.session()
                .quietly(
                        "drawing what " + source.file().getFileName() + " holds",
                        progress -> {
                            for (ImportModel.Stack stack : stacks) {
                                ImportSource.Importable piece = stack.first();
                                progress.step(piece.name(), -1);
                                picture(source, piece)
                                        .ifPresent(png -> scenes.session().onInterface(() -> {
                                            if (model.sourceProperty()
                                                    .get()
                                                    .filter(now -> now == source)
                                                    .isPresent()) {
                                                // All uses of an asset look alike.
                                                Image image = new Image(new ByteArrayInputStream(png));
                                                stack.paths().forEach(path -> {
                                                    pictures.put(path, image);
                                                    showPicture(path);
                                                });
                                            }
                                        }));
                            }
                            return stacks.size();
                        },
                        done -> drawn = true);
    }

    /** Whether a file is shown, with all its pictures. */
    boolean isDrawn() {
        return drawn && model.sourceProperty().get().isPresent();
    }

    private Optional<byte[]> picture(ImportSource source, ImportSource.Importable piece) {
        Model shown = source.model(piece);
        if (shown.bounds().isEmpty()) {
            return Optional.empty();
        }
        BufferedImage image =
                Thumbnails.picture(shown, scenes.session().workbench().renderCache(), 2 * PICTURE);
        return Optional.of(Png.of(image));
    }

    private void showPicture(SdfPath path) {
        for (CheckBox tick : ticks.getOrDefault(path, List.of())) {
            if (tick.getGraphic() instanceof VBox tile
                    && tile.getChildren().getFirst() instanceof StackPane pane
                    && pictures.containsKey(path)) {
                pane.getChildren().setAll(view(pictures.get(path)));
            }
        }
    }

    private static ImageView view(Image image) {
        ImageView view = new ImageView(image);
        view.setFitWidth(PICTURE);
        view.setFitHeight(PICTURE);
        return view;
    }

    private void fill() {
        ticks.clear();
        heads.clear();
        together.clear();
        sets.getChildren().clear();
        model.ordered(order).forEach((label, importables) -> {
            List<ImportSource.Importable> shown = ImportModel.named(importables, search.getText());
            if (shown.isEmpty()) {
                return;
            }
            CheckBox whole = new CheckBox(label + "  (" + shown.size() + ")");
            whole.getStyleClass().add("set-label");
            whole.setId("bring-set-" + Names.slug(label));
            Controls.hint(whole, "Tick or untick all of them");
            List<SdfPath> paths =
                    shown.stream().map(ImportSource.Importable::path).toList();
            whole.setOnAction(event -> model.choose(paths, whole.isSelected()));
            heads.put(whole, paths);
            FlowPane tiles = new FlowPane(8, 8);
            model.stacked(shown).forEach(stack -> tiles.getChildren().addAll(tiles(stack)));
            sets.getChildren().add(new VBox(6, whole, tiles));
        });
        if (sets.getChildren().isEmpty()) {
            sets.getChildren().add(Controls.wrapped("Nothing in the file is called so.", Styles.FAINT));
        }
        showChosen();
    }

    /** Ticks or unticks all that is shown. */
    private void chooseShown(boolean wanted) {
        model.choose(
                ImportModel.named(model.importables(), search.getText()).stream()
                        .map(ImportSource.Importable::path)
                        .toList(),
                wanted);
    }

    /** One picture for all uses of an asset, until it is unfolded. */
    private List<Node> tiles(ImportModel.Stack stack) {
        if (stack.pieces().size() == 1) {
            return List.of(tile(stack.first()));
        }
        SdfPath path = stack.first().path();
        if (unfolded.contains(path)) {
            List<Node> all = new ArrayList<>();
            stack.pieces().forEach(piece -> all.add(tile(piece)));
            all.add(fold(
                    "Together",
                    path,
                    "Show one picture for all " + stack.pieces().size() + " again"));
            return all;
        }
        CheckBox one = tile(stack.first(), stack.pieces());
        VBox tile = new VBox(
                2,
                one,
                fold(
                        stack.pieces().size() + " uses…",
                        path,
                        "Show each of the " + stack.pieces().size() + " uses, to choose among them"));
        return List.of(tile);
    }

    private Button fold(String text, SdfPath path, String hint) {
        Button fold = Controls.button(text, "", hint, () -> {
            if (!unfolded.remove(path)) {
                unfolded.add(path);
            }
            fill();
        });
        fold.setId("bring-uses-" + Names.slug(path.name()));
        fold.getStyleClass().addAll("small", Styles.QUIET);
        return fold;
    }

    private CheckBox tile(ImportSource.Importable piece) {
        return tile(piece, List.of(piece));
    }

    /** @param all that are ticked and unticked with it */
    private CheckBox tile(ImportSource.Importable piece, List<ImportSource.Importable> all) {
        StackPane picture = new StackPane(
                pictures.containsKey(piece.path()) ? view(pictures.get(piece.path())) : sign(piece.kind()));
        picture.setMinSize(PICTURE, PICTURE);
        picture.setMaxSize(PICTURE, PICTURE);
        Label title = Controls.label(piece.name());
        title.setMaxWidth(PICTURE + 20);
        Label facts = Controls.label(facts(piece), Styles.FAINT);
        facts.setMaxWidth(PICTURE + 20);
        VBox tile = new VBox(2, picture, title, facts);
        tile.setPrefWidth(PICTURE + 20);
        CheckBox tick = new CheckBox();
        tick.setGraphic(tile);
        tick.setId("bring-" + Names.slug(piece.name()));
        tick.getStyleClass().add("bring-tile");
        tick.setAccessibleText(piece.name() + ", " + facts(piece));
        Controls.hint(
                tick,
                piece.path()
                        + (piece.links().isEmpty()
                                ? ""
                                : "\nlinked with " + piece.links().size() + " others"));
        tick.setOnAction(event -> {
            if (!ticking) {
                model.choose(all.stream().map(ImportSource.Importable::path).toList(), tick.isSelected());
            }
        });
        ticks.computeIfAbsent(piece.path(), key -> new ArrayList<>()).add(tick);
        together.put(tick, all.stream().map(ImportSource.Importable::path).toList());
        return tick;
    }

    private static String facts(ImportSource.Importable piece) {
        return piece.triangles() > 0 ? Units.count(piece.triangles()) + " tri" : singular(piece.kind());
    }

    private static String singular(ImportSource.Kind kind) {
        String words = kind.words();
        return words.endsWith("s") ? words.substring(0, words.length() - 1) : words;
    }

    private static FontIcon sign(ImportSource.Kind kind) {
        FontIcon icon = new FontIcon(
                switch (kind) {
                    case MODEL, PREFAB -> "remixmz-shape-line";
                    case MATERIAL -> "remixmz-palette-line";
                    case LIGHT -> "remixal-lightbulb-line";
                    case CAMERA -> "remixal-camera-line";
                    case ENVIRONMENT -> "remixal-landscape-line";
                    case HELPER -> "remixmz-map-pin-line";
                });
        icon.getStyleClass().add("bring-sign");
        return icon;
    }

    private void showChosen() {
        if (model.sourceProperty().get().isEmpty()) {
            return;
        }
        ticking = true;
        together.forEach(this::showTick);
        heads.forEach(this::showTick);
        ticking = false;
        needs.getChildren().clear();
        List<ImportSource.Need> along = model.needs();
        long bytes = along.stream().mapToLong(ImportSource.Need::bytes).sum();
        if (!along.isEmpty()) {
            Label words = Controls.wrapped(Units.counted(along.size(), "more thing")
                    + (along.size() == 1 ? " comes along" : " come along")
                    + (bytes == 0 ? "" : ", " + Units.bytes(bytes)) + ": "
                    + along.stream().limit(6).map(ImportPane::told).collect(Collectors.joining(", "))
                    + (along.size() > 6 ? " …" : ""));
            words.setId("bring-needs");
            needs.getChildren().setAll(words);
        }
        boolean lacking = showLacks();
        int count = model.chosenProperty().get().size();
        bring.setText("Bring in " + count);
        bring.setDisable(count == 0 || lacking);
        refer.setText(model.part().map(path -> "Refer to " + plain(path)).orElse("Refer to the file"));
        refer.setDisable(
                count == 0 || !model.sourceProperty().get().orElseThrow().canBeReferred());
        model.weigh();
        showClashes();
    }

    /** What comes along, and why. */
    private static String told(ImportSource.Need need) {
        String by = plain(need.by());
        return switch (need.why()) {
            case "contents" -> "what " + by + " shows";
            case "material:binding" -> plain(need.path()) + " (material of " + by + ")";
            default -> plain(need.path()) + " (" + need.why() + " of " + by + ")";
        };
    }

    private static String plain(SdfPath path) {
        return path.name().replace('_', ' ');
    }

    private void showTick(CheckBox tick, List<SdfPath> paths) {
        long count =
                paths.stream().filter(model.chosenProperty().get()::contains).count();
        tick.setIndeterminate(count > 0 && count < paths.size());
        tick.setSelected(count == paths.size());
    }

    /** @return whether something keeps the chosen things from being brought in */
    private boolean showLacks() {
        lacks.getChildren().clear();
        List<String> missing = model.missing();
        if (missing.isEmpty()) {
            return false;
        }
        Button find =
                Controls.button("Find…", "", "Look for the missing textures in a folder and below it", () -> Ask.of(
                                this, "Look for missing textures")
                        .folder()
                        .ifPresent(model::findTextures));
        find.setId("bring-find-textures");
        CheckBox without = new CheckBox(missing.size() == 1 ? "Bring in without it" : "Bring in without them");
        without.setId("bring-without");
        without.selectedProperty().bindBidirectional(model.allowMissingProperty());
        HBox row = new HBox(8, without, Controls.spring(), find);
        row.setAlignment(Pos.CENTER_LEFT);
        VBox note = new VBox(
                6,
                Controls.wrapped((missing.size() == 1 ? "Texture not found: " : "Textures not found: ")
                        + String.join(", ", missing)),
                row);
        note.getStyleClass().addAll("note-box", "wrong");
        lacks.getChildren().setAll(note);
        return !model.allowMissingProperty().get();
    }

    private void showClashes() {
        clashes.show(name.getText().strip());
    }

    private void bring(ImportModel.Way way) {
        String group =
                name.getText().isBlank() ? model.usualName() : name.getText().strip();
        String into = drawer.getText().strip();
        if (target.getValue() == ImportModel.Target.PICKED) {
            model.bringToPoint(way, group, into);
        } else {
            scenes.session().attempt(() -> model.bring(way, group, into, target.getValue(), lookedAt.get()));
        }
    }
}
