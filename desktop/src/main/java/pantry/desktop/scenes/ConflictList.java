package pantry.desktop.scenes;

import java.io.ByteArrayInputStream;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import javafx.geometry.Pos;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.image.Image;
import javafx.scene.image.ImageView;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import pantry.base.Names;
import pantry.base.Png;
import pantry.desktop.controls.Choice;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.model.Model;
import pantry.render.Thumbnails;
import pantry.scene.ConflictSides;
import pantry.scene.SceneImport;

/** The names that a scene and what is brought in both have: both sides as pictures, what differs, and the choice. */
final class ConflictList extends VBox {
    private static final int PICTURE = 48;
    private static final double HEIGHT = 172;

    private final ImportModel model;
    private final ScenesModel scenes;
    private final VBox rows = new VBox(8);
    private final ScrollPane scroll = Controls.scrolling(rows);

    /** The pictures of both sides, as they were drawn since the file was opened; one may show nothing. */
    private final Map<SceneImport.Conflict, Pictures> pictures = new HashMap<>();

    private record Pictures(Optional<Image> own, Optional<Image> incoming) {
        static final Pictures NONE = new Pictures(Optional.empty(), Optional.empty());
    }

    ConflictList(ImportModel model, ScenesModel scenes) {
        super(4);
        this.model = model;
        this.scenes = scenes;
        setId("bring-clashes");
        scroll.setMaxHeight(HEIGHT);
        managedProperty().bind(visibleProperty());
        setVisible(false);
    }

    /** Forgets what was drawn for another file. */
    void clear() {
        pictures.clear();
    }

    /** @param group the name of what would be brought in */
    void show(String group) {
        rows.getChildren().clear();
        getChildren().clear();
        scenes.session().attempt(() -> {
            List<SceneImport.Conflict> all = model.clashes(group);
            List<SceneImport.Conflict> open =
                    all.stream().filter(conflict -> !conflict.same()).toList();
            if (!open.isEmpty()) {
                getChildren().add(Controls.label(told(open.size(), all.size() - open.size()), Styles.SECTION));
                open.forEach(conflict -> rows.getChildren().add(row(conflict)));
                scroll.setPrefViewportHeight(Math.min(HEIGHT, open.size() * (PICTURE + 12.0)));
                getChildren().add(scroll);
            } else if (!all.isEmpty()) {
                getChildren().add(Controls.label(told(0, all.size()), Styles.FAINT));
            }
        });
        setVisible(!getChildren().isEmpty());
    }

    private static String told(int different, int same) {
        String alike = same == 0
                ? ""
                : (same == 1 ? "1 name is the same in both" : same + " names are the same in both") + "; one is taken";
        String open = different == 0
                ? ""
                : (different == 1 ? "1 name is" : different + " names are") + " in both, for different things";
        return open.isEmpty() || alike.isEmpty() ? open + alike : open + "; " + alike;
    }

    private HBox row(SceneImport.Conflict conflict) {
        ConflictSides sides = model.sides(conflict);
        Label name = Controls.label(conflict.name().replace('_', ' '), Styles.SECTION);
        Label kind = Controls.label(conflict.what().name().toLowerCase(Locale.ROOT), Styles.FAINT, "small");
        Label differs = Controls.wrapped(
                sides.differences().isEmpty() ? "" : String.join("; ", sides.differences()), Styles.FAINT, "small");
        differs.setManaged(!differs.getText().isEmpty());
        VBox words = new VBox(1, new HBox(6, name, kind), differs);
        words.setMinWidth(0);
        words.setAlignment(Pos.CENTER_LEFT);
        HBox.setHgrow(words, Priority.ALWAYS);
        StackPane own = frame();
        StackPane incoming = frame();
        HBox row = new HBox(
                10,
                words,
                side("the scene's", sides.own(), own),
                side("the incoming", sides.incoming(), incoming),
                choice(conflict));
        row.setAlignment(Pos.CENTER_LEFT);
        row.setId("clash-row-" + Names.slug(conflict.name()));
        draw(conflict, sides, own, incoming);
        return row;
    }

    private static StackPane frame() {
        StackPane frame = new StackPane();
        frame.getStyleClass().add("clash-picture");
        frame.setManaged(false);
        frame.setVisible(false);
        return frame;
    }

    private static HBox side(String whose, String says, StackPane picture) {
        Label of = Controls.label(whose, Styles.FAINT, "small");
        Label what = Controls.label(says, "small");
        what.setMaxWidth(84);
        Controls.hint(what, says);
        VBox words = new VBox(1, of, what);
        words.setAlignment(Pos.CENTER_LEFT);
        HBox side = new HBox(6, picture, words);
        side.setAlignment(Pos.CENTER_LEFT);
        side.setPrefWidth(138);
        side.setMinWidth(138);
        return side;
    }

    /** Draws both sides in the background; what was drawn once is shown at once. */
    private void draw(SceneImport.Conflict conflict, ConflictSides sides, StackPane own, StackPane incoming) {
        Pictures known = pictures.get(conflict);
        if (known != null) {
            put(known, own, incoming);
            return;
        }
        Optional<Model> here = model.shownOf(conflict, sides);
        scenes.session()
                .quietly(
                        "drawing both of " + conflict.name(),
                        progress -> List.of(png(here), png(model.shownIncoming(conflict, sides))),
                        drawn -> {
                            Pictures made = new Pictures(image(drawn.get(0)), image(drawn.get(1)));
                            pictures.put(conflict, made);
                            put(made, own, incoming);
                        });
    }

    private Optional<byte[]> png(Optional<Model> shown) {
        return shown.filter(each -> !each.bounds().isEmpty())
                .map(each -> Png.of(
                        Thumbnails.picture(each, scenes.session().workbench().renderCache(), 2 * PICTURE)));
    }

    private static Optional<Image> image(Optional<byte[]> png) {
        return png.map(bytes -> new Image(new ByteArrayInputStream(bytes)));
    }

    private static void put(Pictures drawn, StackPane own, StackPane incoming) {
        put(drawn.own(), own);
        put(drawn.incoming(), incoming);
    }

    private static void put(Optional<Image> image, StackPane frame) {
        frame.setManaged(image.isPresent());
        frame.setVisible(image.isPresent());
        image.ifPresent(each -> {
            ImageView view = new ImageView(each);
            view.setFitWidth(PICTURE);
            view.setFitHeight(PICTURE);
            frame.getChildren().setAll(view);
        });
    }

    private ComboBox<String> choice(SceneImport.Conflict conflict) {
        ComboBox<String> choice = new Choice<>();
        Map<String, SceneImport.Decision> words = new LinkedHashMap<>();
        for (SceneImport.Decision decision : SceneImport.Decision.values()) {
            boolean noSuch =
                    conflict.what() == SceneImport.ConflictKind.SETTING && decision == SceneImport.Decision.BOTH
                            || conflict.what() == SceneImport.ConflictKind.ALTERNATES
                                    && decision == SceneImport.Decision.INCOMING;
            if (!noSuch) {
                words.put(words(conflict, decision), decision);
            }
        }
        choice.getItems().setAll(words.keySet());
        choice.setValue(words(conflict, model.decision(conflict)));
        choice.setId("clash-" + Names.slug(conflict.name()));
        choice.setMinWidth(130);
        choice.setOnAction(event -> model.decide(conflict, words.get(choice.getValue())));
        return choice;
    }

    private static String words(SceneImport.Conflict conflict, SceneImport.Decision decision) {
        return switch (decision) {
            case SCENE ->
                switch (conflict.what()) {
                    case GROUP -> "into the scene's";
                    case ALTERNATES -> "what is there now, always";
                    default -> "the scene's";
                };
            case INCOMING -> conflict.what() == SceneImport.ConflictKind.GROUP ? "in its place" : "the incoming";
            case BOTH -> conflict.what() == SceneImport.ConflictKind.ALTERNATES ? "into the scene's set" : "both";
        };
    }
}
