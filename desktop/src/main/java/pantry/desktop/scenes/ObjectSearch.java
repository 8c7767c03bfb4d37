package pantry.desktop.scenes;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.function.Predicate;
import pantry.desktop.session.Terms;
import pantry.scene.Placement;
import pantry.scene.Scene;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;
import pantry.usd.Value;

/**
 * What is looked for among a scene's objects: words of their names and of the assets that they show, and terms about how
 * they are held. {@code behind:} stands for those of which a newer version is ready, {@code overridden:}, {@code missing:},
 * {@code pinned:} and {@code hidden:} for those that are so, {@code kind:group} or {@code kind:placement} for what they
 * are; a minus before a term asks for the others.
 */
final class ObjectSearch {
    private static final List<String> NAMES = List.of("behind", "overridden", "missing", "pinned", "hidden", "kind");

    private final Scene scene;
    private final NewerVersions newer;
    private final Map<SdfPath, Placement> placements = new HashMap<>();

    /** @param placements all of the scene's */
    ObjectSearch(Scene scene, List<Placement> placements, NewerVersions newer) {
        this.scene = scene;
        this.newer = newer;
        placements.forEach(placement -> this.placements.put(placement.path(), placement));
    }

    /**
     * The objects that a text asks for, in the order of the scene.
     *
     * @param most how many are wanted at most
     */
    List<SdfPath> find(String text, int most) {
        Terms terms = Terms.of(text, NAMES);
        Predicate<SdfPath> wanted =
                terms.fulfilled(java.util.Optional.of(this), (term, search) -> search.fulfilled(term));
        List<SdfPath> found = new ArrayList<>();
        collect(scene.root(), terms, wanted, found, most);
        return found;
    }

    private void collect(SdfPath at, Terms terms, Predicate<SdfPath> wanted, List<SdfPath> found, int most) {
        for (String name : scene.childNames(at)) {
            if (found.size() >= most) {
                return;
            }
            SdfPath path = at.child(name);
            if (terms.isNamed(named(path)) && wanted.test(path)) {
                found.add(path);
            }
            if (!placements.containsKey(path)) {
                collect(path, terms, wanted, found, most);
            }
        }
    }

    /** The words that an object is found by: its name, and what it shows. */
    private String named(SdfPath path) {
        Placement placement = placements.get(path);
        // By what its layer says: of many thousands, not each is composed to be found.
        String own = scene.spec(path)
                .flatMap(prim -> prim.text("displayName"))
                .orElse(path.name().replace('_', ' '));
        return placement == null ? own : own + " " + SceneNames.source(placement);
    }

    private Predicate<SdfPath> fulfilled(Terms.Term term) {
        return switch (term.name()) {
            case "behind" -> path -> placements.containsKey(path) && newer.behind(placements.get(path)) >= term.least();
            case "overridden" -> path -> placements.containsKey(path) && hasChildren(path);
            case "missing" -> path -> is(path, Placement.Held.MISSING) || is(path, Placement.Held.REFUSED);
            case "pinned" -> path -> is(path, Placement.Held.PINNED);
            case "hidden" ->
                path -> scene.spec(path).filter(ObjectSearch::isHidden).isPresent();
            default -> path -> kind(path).startsWith(term.what());
        };
    }

    private boolean is(SdfPath path, Placement.Held held) {
        return placements.containsKey(path) && placements.get(path).held() == held;
    }

    private boolean hasChildren(SdfPath path) {
        return scene.spec(path).filter(prim -> !prim.children().isEmpty()).isPresent();
    }

    private static boolean isHidden(PrimSpec prim) {
        return prim.attribute("visibility")
                        .flatMap(attribute -> attribute.value())
                        .filter(new Value.Token("invisible")::equals)
                        .isPresent()
                || prim.flag("active").filter(on -> !on).isPresent();
    }

    private String kind(SdfPath path) {
        if (placements.containsKey(path)) {
            return "placement";
        }
        return scene.spec(path)
                .map(prim -> prim.typeName().equals("Xform")
                        ? "group"
                        : prim.typeName().toLowerCase(Locale.ROOT))
                .orElse("");
    }
}
