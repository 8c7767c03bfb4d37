package pantry.desktop.scenes;

import java.util.List;
import java.util.Optional;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import pantry.catalogue.IndexedAsset;
import pantry.desktop.controls.Choice;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.session.Units;
import pantry.library.AssetKind;
import pantry.scene.OverrideSentence;
import pantry.scene.Placement;
import pantry.scene.PlacementParts;
import pantry.scene.Scene;
import pantry.usd.SdfPath;

/** A part inside of a placement: what changing it costs, whether it is seen, its variants and its material. */
final class PartPane extends VBox {
    private final ScenesModel model;

    PartPane(ScenesModel model) {
        super(16);
        this.model = model;
    }

    /** @param part that is shown; its place is shown elsewhere */
    void show(PlacementParts.Part part) {
        getChildren().setAll(actions(part));
        if (!part.variants().isEmpty()) {
            getChildren().add(variants(part));
        }
        getChildren().add(Controls.section("Material", material(part)));
        List<OverrideSentence> said = said(part);
        if (!said.isEmpty()) {
            getChildren().add(Controls.section("Otherwise than its asset", sentences(said), copy(part)));
        }
    }

    private Optional<Scene> scene() {
        return model.sceneProperty().get();
    }

    /** What changing it ends, in words. */
    Label cost(PlacementParts.Part part) {
        String of = model.title(part.placement());
        long sharing =
                scene().map(open -> open.parts().sharing(part.placement())).orElse(0L);
        Label cost = Controls.wrapped(
                "A part of " + of + ". "
                        + (sharing > 0
                                ? "Changed here, " + of + " no longer shares its insides with " + Units.count(sharing)
                                        + (sharing == 1 ? " other, which stays" : " others, which stay")
                                        + " as the asset has it."
                                : "What is changed here is changed in this placement alone."),
                Styles.FAINT);
        cost.setId("part-cost");
        return cost;
    }

    private FlowPane actions(PlacementParts.Part part) {
        Button hide = small(
                part.hidden() ? "Show" : "Hide",
                "part-hide",
                part.hidden() ? "Show it again" : "Do not show it in this placement (Delete)",
                () -> model.edits().hide(!part.hidden()));
        Button in = small("Go in", "part-enter", "Pick what is inside of it (Enter)", () -> model.selection()
                .enter(part.path()));
        in.setDisable(!model.selection().canEnter(part.path()));
        Button drop = small(
                "As its asset has it",
                "part-drop",
                "Let go of all that is said of it here",
                () -> model.change(open -> open.parts().drop(List.of(part.path()))));
        drop.setDisable(!part.overridden());
        return new FlowPane(6, 6, hide, in, drop);
    }

    private static Button small(String text, String id, String hint, Runnable action) {
        Button button = Controls.button(text, "", hint, action);
        button.setId(id);
        button.getStyleClass().add("small");
        return button;
    }

    private VBox variants(PlacementParts.Part part) {
        VBox lines = new VBox(6);
        part.variants().forEach((set, variants) -> {
            ComboBox<String> choice = new Choice<>();
            choice.getStyleClass().add("small");
            choice.setId("part-variant-" + set);
            choice.getItems().setAll(variants);
            choice.setValue(part.chosen().getOrDefault(set, ""));
            choice.setOnAction(event -> model.edits().choose(set, choice.getValue()));
            lines.getChildren().add(new HBox(8, Controls.label(set, Styles.FAINT), Controls.spring(), choice));
        });
        return Controls.section("Variants", lines);
    }

    /** The materials of the open libraries, of which one can be given to the part. */
    private ComboBox<IndexedAsset> material(PlacementParts.Part part) {
        Choice<IndexedAsset> choice = new Choice<>();
        choice.getStyleClass().add("small");
        choice.setId("part-material");
        choice.setMaxWidth(Double.MAX_VALUE);
        choice.shownAs(item -> item.name() + " · " + item.shelf());
        choice.getItems()
                .setAll(model.session().shelving().finder().items().stream()
                        .filter(item -> item.kind().equals(AssetKind.MATERIAL.word()))
                        .toList());
        choice.setPromptText(choice.getItems().isEmpty() ? "no material is on a shelf" : "a material of the library");
        choice.setDisable(choice.getItems().isEmpty());
        choice.setOnAction(event -> Optional.ofNullable(choice.getValue())
                .ifPresent(item -> model.change(open -> open.parts()
                        .coat(part.path(), model.session().shelving().asset(item)))));
        return choice;
    }

    private List<OverrideSentence> said(PlacementParts.Part part) {
        return scene().map(open -> open.overrides().told(part.placement()).stream()
                        .filter(each -> each.part().startsWith(part.path()))
                        .toList())
                .orElse(List.of());
    }

    private static VBox sentences(List<OverrideSentence> said) {
        VBox lines = new VBox(4);
        said.forEach(each -> lines.getChildren().add(Controls.wrapped(each.sentence())));
        return lines;
    }

    /** Says the same of all other placements of the asset. */
    private Button copy(PlacementParts.Part part) {
        List<SdfPath> others = others(part.placement());
        Button copy = small(
                others.isEmpty()
                        ? "No others to copy it to"
                        : "Copy to the " + Units.counted(others.size(), "other placement"),
                "part-copy",
                "Say the same of this part in all other placements of the asset",
                () -> model.change(open -> open.parts().copyTo(part.path(), others)));
        copy.setDisable(others.isEmpty());
        return copy;
    }

    private List<SdfPath> others(SdfPath placement) {
        Optional<Placement> own = scene().flatMap(open -> open.placements().at(placement));
        return own.stream()
                .flatMap(of ->
                        model.placements().stream().filter(each -> each.layer().equals(of.layer())))
                .map(Placement::path)
                .filter(path -> !path.equals(placement))
                .toList();
    }
}
