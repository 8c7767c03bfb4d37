package pantry.usd.compose;

import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;
import pantry.usd.AttributeSpec;
import pantry.usd.ListEdit;
import pantry.usd.PropertySpec;
import pantry.usd.Reference;
import pantry.usd.RelationshipSpec;
import pantry.usd.SdfPath;
import pantry.usd.Specifier;
import pantry.usd.Value;

/** A composed prim of a stage. Answers are resolved when asked; children are kept. */
public final class Prim {
    private final Stage stage;
    private final @Nullable Prim parent;
    private final SdfPath path;
    private final SdfPath indexPath;
    private PrimIndex index;
    private @Nullable Map<String, Prim> children;
    private @Nullable Boolean instance;

    /** @param indexPath the path in the namespace of the index's root, which differs below a prototype */
    Prim(Stage stage, @Nullable Prim parent, SdfPath path, SdfPath indexPath, PrimIndex index) {
        this.stage = stage;
        this.parent = parent;
        this.path = path;
        this.indexPath = indexPath;
        this.index = index;
        stage.composed(path, index);
    }

    PrimIndex index() {
        return index;
    }

    SdfPath indexPath() {
        return indexPath;
    }

    Stage stage() {
        return stage;
    }

    public SdfPath path() {
        return path;
    }

    public String name() {
        return path.name();
    }

    /** The schema's name; empty where no layer gives one. */
    public String typeName() {
        return index.strongest(spec -> spec.typeName().isEmpty() ? null : spec.typeName())
                .orElse("");
    }

    private Optional<Specifier> definingSpecifier() {
        return index.definingSpecifier();
    }

    /** The strongest specifier that is not an override's; an override where there is none. */
    public Specifier specifier() {
        return definingSpecifier().orElse(Specifier.OVER);
    }

    /** Whether some layer defines the prim, rather than only overriding it. */
    public boolean isDefined() {
        return isPrototype() || definingSpecifier().isPresent();
    }

    /** Whether this is the shared prim itself that instances refer to; it stands for prims that are defined. */
    private boolean isPrototype() {
        return parent == null && !path.equals(SdfPath.ROOT);
    }

    /** Whether the prim or one above it is a class by its strongest definition. */
    public boolean isAbstract() {
        return parent != null
                && (definingSpecifier().filter(Specifier.CLASS::equals).isPresent() || parent.isAbstract());
    }

    public boolean isActive() {
        return flag("active").orElse(true);
    }

    private Optional<Boolean> flag(String field) {
        return index.strongest(spec -> spec.flag(field).orElse(null));
    }

    /** Whether the prim's contents are shared with other instances of the same thing. A prototype itself is none. */
    public boolean isInstance() {
        Boolean known = instance;
        if (known == null) {
            known = parent != null && index.hasArcs() && flag("instanceable").orElse(false);
            instance = known;
        }
        return known;
    }

    /** The shared prim below an instance. */
    public Optional<Prim> prototype() {
        return isInstance() ? Optional.of(stage.prototype(this)) : Optional.empty();
    }

    /** Whether all payloads of the prim are loaded. */
    public boolean isLoaded() {
        return !index.payloadsLeftOut();
    }

    public String kind() {
        return text("kind").orElse("");
    }

    /** A metadata field over all opinions: the strongest, or what dictionaries and list edits come to. */
    public Optional<Value> metadata(String field) {
        return metadata(field, Anchoring.AS_WRITTEN);
    }

    Optional<Value> metadata(String field, Anchoring anchoring) {
        List<Value> values = new ArrayList<>(2);
        for (IndexNode node : index.nodes()) {
            for (LayerStack.SpecAt at : node.specs) {
                at.spec().metadata(field).ifPresent(value -> values.add(anchoring.seen(value, "", at.layer())));
            }
        }
        return Metadata.composed(values);
    }

    /** The strongest opinion of a text or token field. */
    public Optional<String> text(String field) {
        return index.strongest(spec -> spec.text(field).orElse(null));
    }

    /** The names of all metadata fields with an opinion. */
    public Set<String> metadataNames() {
        Set<String> names = new LinkedHashSet<>();
        for (IndexNode node : index.nodes()) {
            node.specs.forEach(at -> names.addAll(at.spec().metadata().keySet()));
        }
        return names;
    }

    /** The strongest selection of a variant set. */
    public Optional<String> variantSelection(String set) {
        return index.strongest(spec -> spec.metadata().get("variants") instanceof Value.Selections selections
                ? selections.bySet().get(set)
                : null);
    }

    /** The variants of each variant set, over all layers. */
    public Map<String, Set<String>> variantSets() {
        Map<String, Set<String>> sets = new LinkedHashMap<>();
        for (IndexNode node : index.nodes()) {
            for (LayerStack.SpecAt at : node.specs) {
                at.spec().variantSets().forEach((set, variants) -> sets.computeIfAbsent(set, s -> new LinkedHashSet<>())
                        .addAll(variants.keySet()));
            }
        }
        return sets;
    }

    /** The applied API schemas, list edits composed over all sites. */
    public List<String> apiSchemas() {
        return metadata("apiSchemas")
                .map(value -> value instanceof Value.TokenEdit(ListEdit<String> edit)
                        ? edit.applyTo(List.of())
                        : List.<String>of())
                .orElse(List.of());
    }

    /** The references and payloads that the root layer stack itself gives this prim, as written. */
    public List<Reference> localReferences() {
        List<Reference> references = new ArrayList<>();
        for (IndexNode node : index.nodes()) {
            if (node.arc() == Arc.ROOT) {
                for (LayerStack.SpecAt at : node.specs) {
                    for (String field : List.of("references", "payload")) {
                        if (at.spec().metadata().get(field) instanceof Value.ReferenceEdit(ListEdit<Reference> edit)) {
                            references.addAll(edit.applyTo(List.of()));
                        }
                    }
                }
            }
        }
        return references;
    }

    /** The arcs that bring something in here, strongest first; those found at the prims above are left out. */
    public List<Opinion.Site> arcs() {
        return arcChains().stream().map(List::getLast).distinct().toList();
    }

    /** As {@link #arcs()}, each with the sites that lead there, the stage's own first. */
    public List<List<Opinion.Site>> arcChains() {
        return index.root().all().stream()
                .filter(node -> node.parent != null && !node.ancestral)
                .map(IndexNode::chain)
                .toList();
    }

    /** What each layer says of the prim itself, strongest first. */
    public List<Opinion> opinions() {
        List<Opinion> opinions = new ArrayList<>();
        for (IndexNode node : index.nodes()) {
            for (LayerStack.SpecAt at : node.specs) {
                opinions.add(opinion(node, at, node.path, at.spec()));
            }
        }
        return opinions;
    }

    /** The strongest of what an arc of a prim above says of this one, which edits of its own specs cannot take away. */
    public Optional<Opinion> broughtInFromAbove() {
        for (IndexNode node : index.nodes()) {
            if (node.ancestral && !node.isOwn()) {
                LayerStack.SpecAt at = node.specs.getFirst();
                return Optional.of(opinion(node, at, node.path, at.spec()));
            }
        }
        return Optional.empty();
    }

    private static Opinion opinion(IndexNode node, LayerStack.SpecAt at, SdfPath where, pantry.usd.Spec spec) {
        return new Opinion(
                at.layer(), where, spec, node.link.offset().after(at.member().offset()), node.chain());
    }

    /** What each layer says of a property, strongest first. */
    public List<Opinion> opinions(String property) {
        List<Opinion> opinions = new ArrayList<>();
        forEachProperty(
                property, (node, at, spec) -> opinions.add(opinion(node, at, node.path.property(property), spec)));
        return opinions;
    }

    /** Another prim of the same stage. */
    public Optional<Prim> onStage(SdfPath other) {
        return stage.prim(other);
    }

    public Optional<Prim> parent() {
        return Optional.ofNullable(parent);
    }

    /** Active and inactive children, in composed order; an instance's are its prototype's. Inactive prims have none. */
    public Collection<Prim> children() {
        return childMap().values();
    }

    public Optional<Prim> child(String name) {
        return Optional.ofNullable(childMap().get(name));
    }

    private Map<String, Prim> childMap() {
        Map<String, Prim> map = children;
        if (map == null) {
            Optional<Prim> prototype = prototype();
            map = prototype.isPresent() ? prototype.get().childMap() : composeChildren();
            children = map;
        }
        return map;
    }

    private Map<String, Prim> composeChildren() {
        if (!isActive()) {
            return Map.of();
        }
        List<String> names = childNames();
        if (names.isEmpty()) {
            return Map.of();
        }
        Map<String, Prim> map = LinkedHashMap.newLinkedHashMap(names.size());
        for (String name : names) {
            SdfPath childPath = path.child(name);
            if (stage.includes(childPath) || isInPrototype()) {
                map.put(name, composeChild(name, childPath));
            }
        }
        return map;
    }

    private Prim composeChild(String name, SdfPath childPath) {
        SdfPath childIndexPath = isInPrototype() ? indexPath.child(name) : childPath;
        return new Prim(stage, this, childPath, childIndexPath, index.child(childIndexPath, childPath, stage));
    }

    /** The shared prim that this one stands in or is; none beside the prototypes. */
    Optional<Prim> prototypeAround() {
        Prim at = this;
        while (at.parent != null) {
            at = at.parent;
        }
        return at.isPrototype() ? Optional.of(at) : Optional.empty();
    }

    private boolean isInPrototype() {
        return path != indexPath && !path.equals(indexPath);
    }

    /** Composes children, and whatever the children's order depends on, anew. */
    void forgetChildren(Set<String> names) {
        Map<String, Prim> old = children;
        if (old == null || old.isEmpty() || isInstance()) {
            children = null;
            return;
        }
        Map<String, Prim> map = new LinkedHashMap<>();
        for (String sibling : childNames()) {
            SdfPath childPath = path.child(sibling);
            Prim known = names.contains(sibling) ? null : old.get(sibling);
            if (known != null) {
                map.put(sibling, known);
            } else if (stage.includes(childPath) || isInPrototype()) {
                map.put(sibling, composeChild(sibling, childPath));
            }
        }
        children = map;
    }

    /** Starts over with another index; the children are composed when they are next asked for. */
    void refresh(PrimIndex newIndex) {
        index = newIndex;
        children = null;
    }

    /** Names from the weakest site up, each site's own order applied last. */
    private List<String> childNames() {
        if (index.nodes().size() == 1 && index.nodes().getFirst().specs.size() == 1) {
            var spec = index.nodes().getFirst().specs.getFirst().spec();
            if (!spec.metadata().containsKey("primOrder")) {
                return List.copyOf(spec.childNames());
            }
        }
        List<String> names = new ArrayList<>();
        Set<String> known = new LinkedHashSet<>();
        for (IndexNode node : index.nodes().reversed()) {
            for (LayerStack.SpecAt at : node.specs.reversed()) {
                for (String child : at.spec().childNames()) {
                    if (known.add(child)) {
                        names.add(child);
                    }
                }
                if (at.spec().metadata().get("primOrder") instanceof Value.Strings(List<String> order)) {
                    List<String> reordered = ListEdit.<String>none()
                            .with(ListEdit.Operation.REORDER, order)
                            .applyTo(names);
                    names.clear();
                    names.addAll(reordered);
                }
            }
        }
        return names;
    }

    /** The names of all properties with an opinion, sorted. */
    public Set<String> propertyNames() {
        Set<String> names = new TreeSet<>();
        for (IndexNode node : index.nodes()) {
            for (LayerStack.SpecAt at : node.specs) {
                at.spec().properties().forEach(property -> names.add(property.name()));
            }
        }
        return names;
    }

    /** The attribute of that name, where some layer has an opinion of it. */
    public Optional<Attribute> attribute(String name) {
        List<Attribute.Heard> heard = new ArrayList<>(2);
        forEachProperty(name, (node, at, property) -> {
            if (property instanceof AttributeSpec attribute) {
                heard.add(new Attribute.Heard(attribute, at.member(), node));
            }
        });
        return heard.isEmpty() ? Optional.empty() : Optional.of(new Attribute(this, name, heard));
    }

    /** The resolved value of an attribute for a still. */
    public Optional<Value> value(String attribute) {
        return attribute(attribute).flatMap(Attribute::value);
    }

    /** A relationship's composed targets, as paths of the stage. */
    public List<SdfPath> targets(String relationship) {
        record Edit(IndexNode node, ListEdit<SdfPath> edit) {}
        List<Edit> edits = new ArrayList<>(2);
        forEachProperty(relationship, (node, at, property) -> {
            if (property instanceof RelationshipSpec spec && !spec.targets().isEmpty()) {
                edits.add(new Edit(node, spec.targets()));
            }
        });
        List<SdfPath> targets = List.of();
        for (Edit edit : edits.reversed()) {
            targets = inStage(relationship, edit.node(), edit.edit()).applyTo(targets);
        }
        return targets;
    }

    /** Whether the property of that name is a relationship. */
    public boolean isRelationship(String property) {
        boolean[] relationship = {false};
        forEachProperty(property, (node, at, spec) -> relationship[0] |= spec instanceof RelationshipSpec);
        return relationship[0];
    }

    /** A metadata field of a property over all opinions. */
    public Optional<Value> propertyMetadata(String property, String field) {
        return propertyMetadata(property, field, Anchoring.AS_WRITTEN);
    }

    Optional<Value> propertyMetadata(String property, String field, Anchoring anchoring) {
        List<Value> values = new ArrayList<>(2);
        forEachProperty(property, (node, at, spec) -> spec.metadata(field)
                .ifPresent(value -> values.add(anchoring.seen(value, "", at.layer()))));
        return Metadata.composed(values);
    }

    /** The names of all metadata fields of a property. */
    public Set<String> propertyMetadataNames(String property) {
        Set<String> names = new LinkedHashSet<>();
        forEachProperty(
                property, (node, at, spec) -> names.addAll(spec.metadata().keySet()));
        return names;
    }

    /** A list edit of paths in the stage's namespace; paths that lead out of what an arc brings in are left out. */
    ListEdit<SdfPath> inStage(String property, IndexNode node, ListEdit<SdfPath> edit) {
        return edit.mapPresent(target -> {
            Optional<SdfPath> mapped = node.toRoot(target);
            if (mapped.isEmpty()) {
                stage.problem(new CompositionProblem(
                        CompositionProblem.Kind.OUTSIDE_TARGET,
                        path,
                        "",
                        "<" + path.property(property) + "> targets <" + target + "> of "
                                + node.stack.root().name() + ", which is outside of what is brought in from there",
                        node.chain().stream().map(Opinion.Site::toString).toList()));
            }
            Prim top = top();
            return mapped.map(inRoot -> inRoot.replacePrefix(top.indexPath, top.path));
        });
    }

    private Prim top() {
        Prim top = this;
        while (top.parent != null) {
            top = top.parent;
        }
        return top;
    }

    private interface PropertyVisitor {
        void visit(IndexNode node, LayerStack.SpecAt at, PropertySpec property);
    }

    private void forEachProperty(String name, PropertyVisitor visitor) {
        for (IndexNode node : index.nodes()) {
            for (LayerStack.SpecAt at : node.specs) {
                PropertySpec property = at.spec().property(name).orElse(null);
                if (property != null) {
                    visitor.visit(node, at, property);
                }
            }
        }
    }
}
