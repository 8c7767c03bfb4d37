package pantry.desktop.scenes;

import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Function;
import java.util.stream.Collectors;
import javafx.css.PseudoClass;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import pantry.desktop.controls.Choice;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.session.Units;
import pantry.scene.Placement;
import pantry.scene.Scene;
import pantry.usd.compose.Prim;

/** What several selected objects have in common and where they differ; what is entered is entered for each. */
final class SharedPane extends VBox {
    private static final PseudoClass WRONG = PseudoClass.getPseudoClass("wrong");
    /** What a figure says that is not the same in all that is selected. */
    static final String DIFFERS = "differs";

    private static final String ENTRY =
            "For all: a figure such as 2.5, a sum such as 0.31+2*0.5, 30cm. +5 adds to each, *2 multiplies each."
                    + " Enter takes it over.";

    private final ScenesModel model;

    SharedPane(ScenesModel model) {
        super(16);
        this.model = model;
    }

    /** Shows what is selected now. */
    void show() {
        getChildren().clear();
        Optional<Scene> scene = model.sceneProperty().get();
        List<Several.Placed> placed = model.several().placed();
        if (scene.isEmpty() || placed.isEmpty()) {
            return;
        }
        getChildren().add(Controls.section("Place of each", table(placed)));
        List<Placement> placements = model.several().placements();
        if (!placements.isEmpty()) {
            getChildren().add(Controls.section("Show", shown(scene.get(), placements)));
        }
    }

    private FigureGrid table(List<Several.Placed> placed) {
        return new FigureGrid(
                axis -> Controls.label("xyz".substring(axis, axis + 1), Styles.FAINT),
                List.of(
                        Controls.label(FigureGrid.MOVE, Styles.FAINT),
                        Controls.label(FigureGrid.TURN, Styles.FAINT),
                        Controls.label(FigureGrid.SCALE, Styles.FAINT)),
                index -> field(placed, index));
    }

    private TextField field(List<Several.Placed> placed, int index) {
        TextField field = new TextField();
        field.setId("each-" + index);
        field.getStyleClass().add("number-field");
        Optional<Double> common = common(placed, each -> PlaceFigures.of(each.placing(), index));
        String shown = common.map(Figures::show).orElse("");
        field.setText(shown);
        field.setPromptText(DIFFERS);
        Controls.hint(field, common.isPresent() ? ENTRY : "It differs between them. " + ENTRY);
        boolean[] taken = {false};
        Runnable take = () -> {
            // Once it is taken over, the slip is shown anew with fields of their own; this one only leaves.
            if (taken[0] || field.getText().isBlank() || field.getText().equals(shown)) {
                return;
            }
            taken[0] = true;
            boolean understood = model.several().enter(index, field.getText());
            taken[0] = understood;
            field.pseudoClassStateChanged(WRONG, !understood);
            if (!understood) {
                Controls.hint(field, "This is no figure. " + ENTRY);
            }
        };
        field.setOnAction(event -> take.run());
        field.focusedProperty().addListener((property, before, now) -> {
            if (!now) {
                take.run();
            }
        });
        return field;
    }

    private Node[] shown(Scene scene, List<Placement> placements) {
        VBox lines = new VBox(6);
        Map<String, Long> assets = placements.stream()
                .collect(Collectors.groupingBy(SceneNames::source, TreeMap::new, Collectors.counting()));
        lines.getChildren()
                .add(Controls.wrapped(assets.entrySet().stream()
                                .limit(6)
                                .map(each -> Units.count(each.getValue()) + " × " + each.getKey())
                                .collect(Collectors.joining("\n"))
                        + (assets.size() > 6 ? "\nand " + (assets.size() - 6) + " more assets" : "")));
        if (assets.size() == 1) {
            VBox version = new VBox();
            model.exports().whenShelved(placements.getFirst(), home -> version.getChildren()
                    .setAll(versions(placements, home)));
            lines.getChildren().add(version);
        }
        variants(scene, placements)
                .forEach((set, variants) -> lines.getChildren().add(variant(scene, placements, set, variants)));
        CheckBox light = new CheckBox("by their proxies, while working");
        light.setId("each-proxy");
        Optional<Boolean> byProxy = common(placements, each -> model.display().isByProxy(each.path()));
        light.setIndeterminate(byProxy.isEmpty());
        light.setSelected(byProxy.orElse(false));
        light.setOnAction(event -> model.display().showSelectedByProxy(light.isSelected()));
        lines.getChildren().add(light);
        return new Node[] {lines};
    }

    private HBox versions(List<Placement> placements, SceneExports.Shelved home) {
        String following = "follow what is ready";
        ComboBox<String> choice = new Choice<>();
        choice.getStyleClass().add("small");
        choice.setId("each-version");
        choice.getItems().add(following);
        home.asset().versions().forEach(version -> choice.getItems().add("pinned to " + version));
        choice.setPromptText(DIFFERS);
        choice.setValue(common(
                        placements,
                        each -> each.held() == Placement.Held.PINNED ? "pinned to " + each.version() : following)
                .orElse(null));
        choice.setOnAction(event -> Optional.ofNullable(choice.getValue()).ifPresent(chosen -> model.exports()
                .replace(
                        home.asset(),
                        chosen.equals(following) ? Optional.empty() : Optional.of(chosen.replace("pinned to ", "")))));
        return line("version", choice);
    }

    /** The variants that all of them offer, by the sets' names. */
    private static Map<String, Set<String>> variants(Scene scene, List<Placement> placements) {
        Map<String, Set<String>> all = new TreeMap<>();
        boolean first = true;
        for (Placement placement : placements) {
            Map<String, Set<String>> own =
                    scene.stage().prim(placement.path()).map(Prim::variantSets).orElse(Map.of());
            if (first) {
                own.forEach((set, variants) -> all.put(set, new LinkedHashSet<>(variants)));
            } else {
                all.keySet().retainAll(own.keySet());
                all.forEach((set, variants) -> variants.retainAll(own.get(set)));
            }
            first = false;
        }
        all.values().removeIf(Set::isEmpty);
        return all;
    }

    private HBox variant(Scene scene, List<Placement> placements, String set, Set<String> variants) {
        ComboBox<String> choice = new Choice<>();
        choice.getStyleClass().add("small");
        choice.setId("each-variant-" + set);
        choice.getItems().setAll(variants);
        choice.setPromptText(DIFFERS);
        choice.setValue(common(placements, each -> scene.stage()
                        .prim(each.path())
                        .flatMap(prim -> prim.variantSelection(set))
                        .orElse(""))
                .orElse(null));
        choice.setOnAction(event -> Optional.ofNullable(choice.getValue())
                .ifPresent(chosen -> model.edits().choose(set, chosen)));
        return line(set, choice);
    }

    private static HBox line(String name, Node choice) {
        HBox line = new HBox(8, Controls.label(name, Styles.FAINT), Controls.spring(), choice);
        line.setAlignment(Pos.CENTER_LEFT);
        return line;
    }

    /** What is the same of all; empty where it differs. */
    private static <T, V> Optional<V> common(List<T> all, Function<T, V> of) {
        Set<V> values = all.stream().map(of).limit(MOST_COMPARED).collect(Collectors.toSet());
        return values.size() == 1 ? Optional.of(values.iterator().next()) : Optional.empty();
    }

    private static final int MOST_COMPARED = 100_000;
}
