package pantry.desktop.shelves;

import java.nio.file.Path;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import javafx.css.PseudoClass;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.image.ImageView;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import pantry.desktop.controls.Choice;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.session.AssetPictures;
import pantry.library.VersionInfo;
import pantry.library.VersionStatus;

/** An asset's versions as a dated strip with pictures, the newest first, and what can be done with the one looked at. */
final class VersionStrip extends VBox {
    private static final PseudoClass CHOSEN = PseudoClass.getPseudoClass("chosen");
    private static final double PICTURE = 64;

    private final ShelvesModel model;
    private final LibraryActions actions;
    private final CardQuestions asks;
    private final AssetPictures thumbs;

    VersionStrip(ShelvesModel model, LibraryActions actions, AssetPictures thumbs, CardQuestions asks) {
        super(8);
        this.asks = asks;
        this.model = model;
        this.actions = actions;
        this.thumbs = thumbs;
    }

    void show(CardModel.Details details) {
        HBox strip = new HBox(4);
        for (VersionInfo version : details.versions().reversed()) {
            strip.getChildren().add(tile(details, version));
        }
        ScrollPane scroll = new ScrollPane(strip);
        scroll.setVbarPolicy(ScrollPane.ScrollBarPolicy.NEVER);
        scroll.setFitToHeight(true);
        scroll.setMinHeight(PICTURE + 62);
        getChildren().setAll(scroll);
        details.versions().stream()
                .filter(version -> version.version().equals(details.version()))
                .findFirst()
                .ifPresent(version -> getChildren().addAll(about(version), buttons(details, version)));
    }

    private VBox tile(CardModel.Details details, VersionInfo version) {
        ImageView picture = new ImageView(
                thumbs.get(Path.of(details.asset().preview(version.version()).toString())));
        picture.setFitWidth(PICTURE);
        picture.setFitHeight(PICTURE);
        VBox tile = new VBox(
                picture,
                Controls.label(version.version(), Styles.FIGURE),
                Controls.label(version.day(), Styles.FIGURE, Styles.FAINT, "small"),
                status(version));
        tile.setAlignment(Pos.TOP_CENTER);
        tile.setId("version-" + version.version());
        tile.getStyleClass().add("version-tile");
        tile.setFocusTraversable(true);
        tile.pseudoClassStateChanged(CHOSEN, version.version().equals(details.version()));
        Controls.hint(
                tile,
                version.version() + " by " + version.who() + ", " + version.when()
                        + (version.note().isEmpty() ? "" : "\n" + version.note()));
        tile.setOnMouseClicked(event -> model.card().showVersion(version.version()));
        tile.setOnKeyPressed(event -> {
            if (event.getCode() == KeyCode.ENTER || event.getCode() == KeyCode.SPACE) {
                model.card().showVersion(version.version());
                event.consume();
            }
        });
        return tile;
    }

    private static Label status(VersionInfo version) {
        String word = version.status().word() + (version.ready() ? " ✓" : "");
        Label label = Controls.label(
                word,
                "status",
                version.ready() ? "good" : version.status() == VersionStatus.RETIRED ? "wrong" : "plain");
        Controls.hint(
                label,
                version.ready() ? "Scenes that follow get this version" : "Scenes that follow do not get this one");
        return label;
    }

    private static Label about(VersionInfo version) {
        return Controls.wrapped(
                (version.note().isEmpty() ? "No note" : "“" + version.note() + "”") + " — " + version.who() + ", "
                        + version.minute(),
                Styles.FAINT);
    }

    private FlowPane buttons(CardModel.Details details, VersionInfo version) {
        FlowPane buttons = new FlowPane(6, 6);
        String name = version.version();
        boolean writable = details.library().writable();
        if (writable && version.status() != VersionStatus.READY) {
            buttons.getChildren()
                    .add(small(
                            "Make it ready",
                            "Scenes that follow get it",
                            () -> actions.setStatus(name, VersionStatus.READY)));
        }
        if (writable && version.status() != VersionStatus.RETIRED) {
            buttons.getChildren()
                    .add(small(
                            "Retire",
                            "Say that it is not to be used any more",
                            () -> actions.setStatus(name, VersionStatus.RETIRED)));
        }
        Optional<String> newest = details.asset().newest();
        if (writable && newest.isPresent() && !newest.get().equals(name)) {
            buttons.getChildren()
                    .add(small(
                            "Go back to it…",
                            "Publish it once more as the newest; nothing is lost",
                            () -> asks.ask(
                                    "Go back to " + name, (note, status) -> actions.goBack(name, note, status))));
        }
        if (details.versions().size() > 1) {
            buttons.getChildren().add(compare(details, name));
        }
        return buttons;
    }

    private static Button small(String text, String hint, Runnable action) {
        Button button = Controls.button(text, "", hint, action);
        button.getStyleClass().add("small");
        return button;
    }

    private ComboBox<String> compare(CardModel.Details details, String name) {
        ComboBox<String> with = new Choice<>();
        with.setId("compare-with");
        with.setPromptText("Compare with…");
        Set<String> others = new TreeSet<>(details.asset().versions());
        others.remove(name);
        with.getItems().setAll(others.stream().toList().reversed());
        with.getStyleClass().add("small");
        with.setOnAction(event -> {
            String other = with.getValue();
            if (other != null) {
                boolean earlier = other.compareTo(name) < 0;
                model.card().compare(earlier ? other : name, earlier ? name : other);
            }
        });
        return with;
    }
}
