package pantry.usd.schema;

import java.util.HashMap;
import java.util.HashSet;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import pantry.usd.SdfPath;
import pantry.usd.compose.Prim;
import pantry.usd.compose.Stage;

/**
 * What belongs to a collection (UsdCollectionAPI): the nearest of a path's ancestors that is included or excluded
 * decides. Collections may include other collections. Path expressions are not evaluated; a collection that has one
 * and no list of its own has no members.
 */
public final class Membership {
    /** Of a collection that is not there. */
    static final Membership NONE = new Membership(Map.of());

    private static final String NAMESPACE = "collection:";

    private final Map<SdfPath, Rule> rules;

    private enum Rule {
        EXPLICIT,
        PRIMS,
        PROPERTIES,
        EXCLUDED
    }

    private Membership(Map<SdfPath, Rule> rules) {
        this.rules = rules;
    }

    /** The names of a prim's collections. */
    public static Set<String> names(Prim prim) {
        Set<String> names = new TreeSet<>();
        for (String schema : prim.apiSchemas()) {
            if (schema.startsWith("CollectionAPI:")) {
                names.add(schema.substring("CollectionAPI:".length()));
            }
        }
        return names;
    }

    /** The members of a prim's collection; none where it has no such collection. */
    public static Membership of(Stage stage, Prim prim, String name) {
        Map<SdfPath, Rule> rules = new HashMap<>();
        collect(stage, prim, name, rules, new HashSet<>());
        return new Membership(rules);
    }

    /** The members of the collection that a path such as {@code /World.collection:lamps} names. */
    public static Optional<Membership> at(Stage stage, SdfPath collection) {
        return name(collection).flatMap(name -> stage.prim(collection.prim()).map(prim -> of(stage, prim, name)));
    }

    private static Optional<String> name(SdfPath path) {
        return path.isProperty() && path.name().startsWith(NAMESPACE)
                ? Optional.of(path.name().substring(NAMESPACE.length()))
                : Optional.empty();
    }

    private static void collect(Stage stage, Prim prim, String name, Map<SdfPath, Rule> rules, Set<SdfPath> underway) {
        SdfPath self = prim.path().property(NAMESPACE + name);
        if (!underway.add(self)) {
            return;
        }
        String prefix = NAMESPACE + name + ":";
        Rule rule =
                switch (Values.token(prim, prefix + "expansionRule").orElse("expandPrims")) {
                    case "explicitOnly" -> Rule.EXPLICIT;
                    case "expandPrimsAndProperties" -> Rule.PROPERTIES;
                    default -> Rule.PRIMS;
                };
        if (Values.flag(prim, prefix + "includeRoot")) {
            rules.put(SdfPath.ROOT, rule);
        }
        for (SdfPath target : prim.targets(prefix + "includes")) {
            Optional<String> other = name(target);
            if (other.isPresent()) {
                stage.prim(target.prim()).ifPresent(owner -> collect(stage, owner, other.get(), rules, underway));
            } else {
                rules.put(target, rule);
            }
        }
        prim.targets(prefix + "excludes").forEach(target -> rules.put(target, Rule.EXCLUDED));
        underway.remove(self);
    }

    /** Whether nothing can belong to it. */
    public boolean isEmpty() {
        return rules.values().stream().allMatch(Rule.EXCLUDED::equals);
    }

    /** Whether a prim or property belongs to the collection. */
    public boolean includes(SdfPath path) {
        for (SdfPath at = path; ; at = at.parent()) {
            Rule rule = rules.get(at);
            if (rule == Rule.EXCLUDED) {
                return false;
            }
            if (rule == Rule.PROPERTIES || rule == Rule.PRIMS && (at.equals(path) || !path.isProperty())) {
                return true;
            }
            if (rule == Rule.EXPLICIT && at.equals(path)) {
                return true;
            }
            if (at.equals(SdfPath.ROOT)) {
                return false;
            }
        }
    }
}
