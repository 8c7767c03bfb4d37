package pantry.usd.compose;

import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
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
    private final PrimIndex index;
    private @Nullable Map<String, Prim> children;

    /** @param indexPath the path in the namespace of the index's root, which differs below a prototype */
    Prim(Stage stage, @Nullable Prim parent, SdfPath path, SdfPath indexPath, PrimIndex index) {
        this.stage = stage;
        this.parent = parent;
        this.path = path;
        this.indexPath = indexPath;
        this.index = index;
    }

    PrimIndex index() {
        return index;
    }

    SdfPath indexPath() {
        return indexPath;
    }

    public SdfPath path() {
        return path;
    }

    public String name() {
        return path.name();
    }

    /** The schema's name; empty where no layer gives one. */
    public String typeName() {
        return index.strongest(opinion -> Optional.of(opinion.spec().typeName()).filter(type -> !type.isEmpty()))
                .orElse("");
    }

    /** Whether some layer defines the prim, rather than only overriding it. */
    public boolean isDefined() {
        return index.strongest(
                        opinion -> Optional.of(opinion.spec().specifier()).filter(s -> s != Specifier.OVER))
                .isPresent();
    }

    /** Whether the strongest definition is a class. */
    public boolean isAbstract() {
        return index.strongest(opinion ->
                                Optional.of(opinion.spec().specifier()).filter(s -> s != Specifier.OVER))
                        .orElse(Specifier.OVER)
                == Specifier.CLASS;
    }

    public boolean isActive() {
        return index.strongest(opinion -> opinion.spec().flag("active")).orElse(true);
    }

    /** Whether the prim's contents are shared with other instances of the same thing. */
    public boolean isInstance() {
        return index.strongest(opinion -> opinion.spec().flag("instanceable")).orElse(false) && index.hasArcs();
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

    /** The strongest opinion of a metadata field. */
    public Optional<Value> metadata(String field) {
        return index.strongest(opinion -> opinion.spec().metadata(field));
    }

    /** The strongest opinion of a text or token field. */
    public Optional<String> text(String field) {
        return index.strongest(opinion -> opinion.spec().text(field));
    }

    /** The names of all metadata fields with an opinion. */
    public Set<String> metadataNames() {
        Set<String> names = new LinkedHashSet<>();
        index.nodes()
                .forEach(node -> node.opinions.forEach(
                        opinion -> names.addAll(opinion.spec().metadata().keySet())));
        return names;
    }

    /** The strongest selection of a variant set. */
    public Optional<String> variantSelection(String set) {
        return index.strongest(opinion -> opinion.spec().metadata().get("variants") instanceof Value.Selections s
                ? Optional.ofNullable(s.bySet().get(set))
                : Optional.empty());
    }

    /** The variants of each variant set, over all layers. */
    public Map<String, Set<String>> variantSets() {
        Map<String, Set<String>> sets = new LinkedHashMap<>();
        index.nodes()
                .forEach(node -> node.opinions.forEach(
                        opinion -> opinion.spec().variantSets().forEach((set, variants) -> sets.computeIfAbsent(
                                        set, s -> new LinkedHashSet<>())
                                .addAll(variants.keySet()))));
        return sets;
    }

    /** The applied API schemas, list edits composed over all sites. */
    public List<String> apiSchemas() {
        List<String> schemas = List.of();
        for (IndexNode node : index.nodes().reversed()) {
            for (LayerStack.Opinion opinion : node.opinions.reversed()) {
                if (opinion.spec().metadata().get("apiSchemas") instanceof Value.TokenEdit(ListEdit<String> edit)) {
                    schemas = edit.applyTo(schemas);
                }
            }
        }
        return schemas;
    }

    /** The references and payloads that the root layer stack itself gives this prim, as written. */
    public List<Reference> localReferences() {
        List<Reference> references = new ArrayList<>();
        for (IndexNode node : index.nodes()) {
            if (node.arc == Arc.ROOT) {
                for (LayerStack.Opinion opinion : node.opinions) {
                    for (String field : List.of("references", "payload")) {
                        if (opinion.spec().metadata().get(field)
                                instanceof Value.ReferenceEdit(ListEdit<Reference> edit)) {
                            references.addAll(edit.applyTo(List.of()));
                        }
                    }
                }
            }
        }
        return references;
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
        Map<String, Prim> map = new LinkedHashMap<>();
        if (!isActive()) {
            return map;
        }
        for (String name : childNames()) {
            SdfPath childPath = path.child(name);
            map.put(name, new Prim(stage, this, childPath, indexPath.child(name), index.child(name, childPath, stage)));
        }
        return map;
    }

    /** Names from the weakest site up, each site's own order applied last. */
    private List<String> childNames() {
        List<String> names = new ArrayList<>();
        Set<String> known = new LinkedHashSet<>();
        for (IndexNode node : index.nodes().reversed()) {
            for (LayerStack.Opinion opinion : node.opinions.reversed()) {
                opinion.spec().children().forEach(child -> {
                    if (known.add(child.name())) {
                        names.add(child.name());
                    }
                });
                if (opinion.spec().metadata().get("primOrder") instanceof Value.Strings(List<String> order)) {
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
        Set<String> names = new java.util.TreeSet<>();
        index.nodes()
                .forEach(node -> node.opinions.forEach(
                        opinion -> opinion.spec().properties().forEach(property -> names.add(property.name()))));
        return names;
    }

    /** The attribute of that name, where some layer has an opinion of it. */
    public Optional<Attribute> attribute(String name) {
        List<Attribute.Opinion> opinions = new ArrayList<>();
        forEachProperty(name, (node, opinion, property) -> {
            if (property instanceof AttributeSpec attribute) {
                opinions.add(new Attribute.Opinion(attribute, opinion.layer(), node));
            }
        });
        return opinions.isEmpty() ? Optional.empty() : Optional.of(new Attribute(this, name, opinions));
    }

    /** The resolved default value of an attribute. */
    public Optional<Value> value(String attribute) {
        return attribute(attribute).flatMap(Attribute::value);
    }

    /** A relationship's composed targets, as paths of the stage. */
    public List<SdfPath> targets(String relationship) {
        record Edit(IndexNode node, ListEdit<SdfPath> edit) {}
        List<Edit> edits = new ArrayList<>();
        forEachProperty(relationship, (node, opinion, property) -> {
            if (property instanceof RelationshipSpec spec) {
                edits.add(new Edit(node, spec.targets()));
            }
        });
        List<SdfPath> targets = List.of();
        for (Edit edit : edits.reversed()) {
            targets = edit.edit().map(target -> toStage(edit.node(), target)).applyTo(targets);
        }
        return targets;
    }

    /** Whether the property of that name is a relationship. */
    public boolean isRelationship(String property) {
        boolean[] relationship = {false};
        forEachProperty(property, (node, opinion, spec) -> relationship[0] |= spec instanceof RelationshipSpec);
        return relationship[0];
    }

    SdfPath toStage(IndexNode node, SdfPath target) {
        return node.toRoot(target).replacePrefix(prototypeSource(), prototypeTarget());
    }

    private SdfPath prototypeSource() {
        return top().indexPath;
    }

    private SdfPath prototypeTarget() {
        return top().path;
    }

    private Prim top() {
        Prim top = this;
        while (top.parent != null) {
            top = top.parent;
        }
        return top;
    }

    private interface PropertyVisitor {
        void visit(IndexNode node, LayerStack.Opinion opinion, PropertySpec property);
    }

    private void forEachProperty(String name, PropertyVisitor visitor) {
        for (IndexNode node : index.nodes()) {
            for (LayerStack.Opinion opinion : node.opinions) {
                opinion.spec().property(name).ifPresent(property -> visitor.visit(node, opinion, property));
            }
        }
    }
}
