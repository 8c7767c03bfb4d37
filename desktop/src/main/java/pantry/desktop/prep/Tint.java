package pantry.desktop.prep;

import java.util.List;
import java.util.Map;
import java.util.Set;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.Model;

/** A model with some of its objects in one tint, so that they are seen to belong together. */
final class Tint {
    private static final Material MATERIAL = Material.plain("Tint", Colour.ofDisplay(0x6FBF9F), 0, 0.6);

    private final Set<String> paths;

    private Tint(Set<String> paths) {
        this.paths = paths;
    }

    /** @param paths of objects; those below them are tinted too */
    static Model of(Model model, Set<String> paths) {
        Tint tint = new Tint(paths);
        return new Model(
                model.name(),
                model.roots().stream().map(root -> tint.node(root, false)).toList(),
                model.extras());
    }

    private Model.Node node(Model.Node node, boolean above) {
        boolean tinted = above || paths.contains(node.path());
        if (!tinted && node.shared()) {
            // What is shared stays shared.
            return node;
        }
        List<Model.Part> parts = tinted
                ? node.parts().stream()
                        .map(part -> new Model.Part(part.mesh(), MATERIAL, Map.of()))
                        .toList()
                : node.parts();
        return new Model.Node(
                node.name(),
                node.path(),
                node.local(),
                parts,
                node.children().stream().map(child -> node(child, tinted)).toList(),
                node.shared());
    }
}
