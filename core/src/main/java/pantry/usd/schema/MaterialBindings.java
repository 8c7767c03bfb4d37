package pantry.usd.schema;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import pantry.usd.SdfPath;
import pantry.usd.Value;
import pantry.usd.compose.Prim;
import pantry.usd.compose.Stage;

/**
 * Which material a prim is drawn with (UsdShadeMaterialBindingAPI): the nearest binding at the prim or above it,
 * directly or through a collection that contains the prim; a binding that says {@code strongerThanDescendants} wins
 * over those below it. A binding for the wanted purpose wins over those for all purposes. At one prim, a collection's
 * binding wins over the direct one, and the collections' in the order of their names.
 *
 * <p>Source: OpenUSD, UsdShade, material binding; the order at one prim from memory. What was looked up is kept: a
 * change of the stage asks for another of these.
 */
public final class MaterialBindings {
    /** The purpose of bindings that name none. */
    public static final String ALL_PURPOSES = "";

    private static final String RELATIONSHIP = "material:binding";

    private final Stage stage;
    private final Map<Prim, List<Local>> local = new IdentityHashMap<>();
    private final Map<SdfPath, Membership> memberships = new HashMap<>();
    private boolean byCollections;

    /**
     * A binding that decided.
     *
     * @param prim at which it stands
     * @param strongerThanDescendants whether it wins over those below its prim
     */
    public record Binding(SdfPath material, SdfPath prim, boolean strongerThanDescendants) {}

    /** A binding as a prim has it; of a collection where that is not empty. */
    private record Local(String purpose, Optional<SdfPath> collection, Binding binding) {}

    public MaterialBindings(Stage stage) {
        this.stage = stage;
    }

    /**
     * The binding for a prim.
     *
     * @param purpose {@code full}, {@code preview} or {@link #ALL_PURPOSES}
     * @param outer what holds for the instance, where the prim is one of a prototype
     */
    public Optional<Binding> of(Prim prim, String purpose, Optional<Binding> outer) {
        Optional<Binding> specific =
                purpose.equals(ALL_PURPOSES) ? Optional.empty() : nearest(prim, purpose, Optional.empty());
        return specific.isPresent() ? specific : nearest(prim, ALL_PURPOSES, outer);
    }

    private Optional<Binding> nearest(Prim prim, String purpose, Optional<Binding> outer) {
        Optional<Binding> winner = Optional.empty();
        for (Prim at = prim; at != null; at = at.parent().orElse(null)) {
            Optional<Binding> here = at(at, prim, purpose);
            if (here.isPresent() && (winner.isEmpty() || here.get().strongerThanDescendants())) {
                winner = here;
            }
        }
        boolean outerWins = winner.isEmpty()
                || outer.filter(Binding::strongerThanDescendants).isPresent();
        return outerWins ? outer : winner;
    }

    /** The strongest of a prim's bindings that concerns one at or below it. */
    private Optional<Binding> at(Prim owner, Prim prim, String purpose) {
        Optional<Binding> direct = Optional.empty();
        for (Local candidate : local.computeIfAbsent(owner, MaterialBindings::bindings)) {
            if (!candidate.purpose().equals(purpose)) {
                continue;
            }
            if (candidate.collection().isEmpty()) {
                direct = Optional.of(candidate.binding());
            } else if (membership(candidate.collection().get()).includes(prim.path())) {
                return Optional.of(candidate.binding());
            }
        }
        return direct;
    }

    /** Whether some of what was looked up is bound by a collection. */
    public boolean areByCollections() {
        return byCollections;
    }

    private Membership membership(SdfPath collection) {
        byCollections = true;
        Membership known = memberships.get(collection);
        if (known == null) {
            known = Membership.at(stage, collection).orElse(Membership.NONE);
            memberships.put(collection, known);
        }
        return known;
    }

    private static List<Local> bindings(Prim prim) {
        List<Local> found = new ArrayList<>(1);
        for (String name : prim.propertyNames()) {
            if (!name.startsWith(RELATIONSHIP) || !prim.isRelationship(name)) {
                continue;
            }
            List<String> parts = List.of(name.substring(RELATIONSHIP.length()).split(":", -1));
            boolean ofCollection = parts.size() > 2 && parts.get(1).equals("collection");
            List<SdfPath> targets = prim.targets(name);
            if (targets.size() != (ofCollection ? 2 : 1)) {
                continue;
            }
            boolean stronger = prim.propertyMetadata(name, "bindMaterialAs")
                    .filter(value -> value.equals(new Value.Token("strongerThanDescendants")))
                    .isPresent();
            String purpose = ofCollection
                    ? (parts.size() > 3 ? parts.get(2) : ALL_PURPOSES)
                    : (parts.size() > 1 ? parts.get(1) : ALL_PURPOSES);
            found.add(new Local(
                    purpose,
                    ofCollection ? Optional.of(targets.getFirst()) : Optional.empty(),
                    new Binding(targets.getLast(), prim.path(), stronger)));
        }
        return found;
    }
}
