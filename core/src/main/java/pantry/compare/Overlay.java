package pantry.compare;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.Model;

/** Two states of a model laid over each other: what is the same in grey, and each kind of difference in a tint. */
public final class Overlay {
    /** How the differences are tinted. */
    public enum Tint {
        SAME("as it was", 0xC9C5BB, 1),
        NEW("new, or as it is now", 0x2F6B57, 1),
        OLD("gone, or as it was", 0x9C2F4A, 0.35f),
        MATERIAL("another material", 0x3C6491, 1),
        NAME("another name", 0xB9770E, 1);

        private final String words;
        private final int display;
        private final Material material;

        Tint(String words, int display, float opacity) {
            this.words = words;
            this.display = display;
            this.material = new Material(
                    words, Colour.ofDisplay(display), opacity, 0, 0.7f, Colour.BLACK, Material.Finish.USUAL, Map.of());
        }

        public String words() {
            return words;
        }

        /** Display colour, {@code 0xRRGGBB}. */
        public int display() {
            return display;
        }
    }

    private Overlay() {}

    /** Both states in one model. */
    public static Model of(Model before, Model after, Comparison comparison) {
        Map<String, Tint> tints = new HashMap<>();
        Set<String> shownAsOld = new HashSet<>();
        for (Comparison.ObjectChange change : comparison.objects()) {
            boolean elsewhere = change.what().contains(Comparison.ChangeKind.MOVED)
                    || change.what().contains(Comparison.ChangeKind.RESHAPED);
            if (change.what().contains(Comparison.ChangeKind.REMOVED) || elsewhere) {
                shownAsOld.add(change.before());
            }
            if (!change.after().isEmpty()) {
                tints.put(
                        change.after(),
                        elsewhere || change.what().contains(Comparison.ChangeKind.ADDED)
                                ? Tint.NEW
                                : change.what().contains(Comparison.ChangeKind.REMADE) ? Tint.MATERIAL : Tint.NAME);
            }
        }
        List<Model.Node> nodes = new ArrayList<>();
        Objects.of(after).forEach((path, thing) -> nodes.add(tinted(thing, tints.getOrDefault(path, Tint.SAME))));
        Objects.of(before).forEach((path, thing) -> {
            if (shownAsOld.contains(path)) {
                nodes.add(tinted(thing, Tint.OLD));
            }
        });
        return new Model("Differences", nodes, Model.Extras.NONE);
    }

    private static Model.Node tinted(Objects.Thing thing, Tint tint) {
        return new Model.Node(
                thing.node().name(),
                thing.path(),
                thing.world(),
                thing.node().parts().stream()
                        .map(part -> new Model.Part(part.mesh(), tint.material))
                        .toList(),
                List.of(),
                false);
    }
}
