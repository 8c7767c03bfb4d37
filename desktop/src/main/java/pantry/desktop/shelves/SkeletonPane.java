package pantry.desktop.shelves;

import java.util.Optional;
import java.util.function.Consumer;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Hyperlink;
import javafx.scene.image.ImageView;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import pantry.base.Names;
import pantry.catalogue.IndexedAsset;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.session.AssetPictures;
import pantry.usecase.AlikeSkeletons.Alike;

/** On the card of what has a skeleton, the figures and motions that have such a one; each can be tried with it. */
final class SkeletonPane extends VBox {
    private static final int MOST = 12;
    private static final double PICTURE = 40;

    private final SkeletonModel model;
    private final AssetPictures pictures;
    private final Consumer<IndexedAsset> onOpen;

    /** @param onOpen called with the asset that is to be shown instead */
    SkeletonPane(SkeletonModel model, AssetPictures pictures, Consumer<IndexedAsset> onOpen) {
        super(4);
        this.model = model;
        this.pictures = pictures;
        this.onOpen = onOpen;
        setId("card-skeleton");
        model.alikeProperty().addListener(change -> fill());
        model.trialProperty().addListener(change -> fill());
        fill();
    }

    private void fill() {
        Controls.showOnly(this, !model.alikeProperty().get().isEmpty());
        VBox rows = new VBox(4);
        model.trialProperty().get().ifPresent(trial -> rows.getChildren().add(note(trial)));
        model.alikeProperty().get().stream().limit(MOST).forEach(each -> rows.getChildren()
                .add(row(each)));
        int more = model.alikeProperty().get().size() - MOST;
        if (more > 0) {
            rows.getChildren().add(Controls.label("and " + more + " more", Styles.FAINT));
        }
        getChildren().setAll(Controls.section("The same skeleton", rows));
    }

    private VBox note(SkeletonModel.Trial trial) {
        String fits = trial.misfits().isEmpty()
                ? "All its joints fit."
                : "It does not fit wholly: " + String.join("; ", trial.misfits()) + ".";
        Button end = Controls.button("As it is", "", "Show the asset of this card again", model::end);
        end.setId("card-trial-end");
        end.getStyleClass().add("small");
        VBox note = new VBox(
                6, Controls.wrapped("Shown is " + trial.figure() + " doing " + trial.motion() + ". " + fits), end);
        note.setId("card-trial");
        note.getStyleClass().addAll("note-box", trial.misfits().isEmpty() ? "info" : "caution");
        return note;
    }

    private HBox row(Alike alike) {
        ImageView picture = new ImageView(pictures.get(alike.item()));
        picture.setFitWidth(PICTURE);
        picture.setFitHeight(PICTURE);
        Hyperlink name = new Hyperlink(alike.item().name());
        name.setOnAction(event -> onOpen.accept(alike.item()));
        Controls.hint(name, "Show its card");
        VBox words = new VBox(name, Controls.label(words(alike), Styles.FAINT, "small"));
        words.setMinWidth(0);
        HBox.setHgrow(words, Priority.ALWAYS);
        HBox row = new HBox(8, picture, words);
        row.setAlignment(Pos.CENTER_LEFT);
        if (model.isTriable(alike)) {
            Button tryOut = Controls.button("Try", "", hint(alike), () -> model.tryOut(alike));
            tryOut.getStyleClass().add("small");
            tryOut.setId("card-try-" + Names.slug(alike.item().name()));
            tryOut.setMinWidth(USE_PREF_SIZE);
            tryOut.setDisable(
                    model.trialProperty().get().map(SkeletonModel.Trial::with).equals(Optional.of(alike.item())));
            row.getChildren().add(tryOut);
        }
        return row;
    }

    private String hint(Alike alike) {
        return model.isMotion()
                ? "Show how " + alike.item().name() + " does this motion"
                : "Show how it does what " + alike.item().name() + " does";
    }

    private static String words(Alike alike) {
        String what = alike.isMotion() ? "motion" : "figure";
        return alike.common() == alike.joints()
                ? what + ", " + Names.counted(alike.joints(), "joint")
                : what + ", " + alike.common() + " of its " + Names.counted(alike.joints(), "joint");
    }
}
