package pantry.usd;

import java.util.ArrayList;
import java.util.Collection;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/** A layer's opinion of a prim: metadata, properties, children, variant sets. Mutable; belongs to one parent. */
public final class PrimSpec extends Spec {
    private Specifier specifier;
    private String typeName;
    private final String name;
    private final Map<String, PropertySpec> properties = new LinkedHashMap<>();
    private final Map<String, PrimSpec> children = new LinkedHashMap<>();
    private final Map<String, Map<String, VariantSpec>> variantSets = new LinkedHashMap<>();

    /** @param typeName the schema's name, or empty */
    public PrimSpec(Specifier specifier, String typeName, String name) {
        this.specifier = specifier;
        this.typeName = typeName;
        this.name = name;
    }

    public String name() {
        return name;
    }

    public Specifier specifier() {
        return specifier;
    }

    public void setSpecifier(Specifier specifier) {
        this.specifier = specifier;
    }

    public String typeName() {
        return typeName;
    }

    public void setTypeName(String typeName) {
        this.typeName = typeName;
    }

    public Collection<PropertySpec> properties() {
        return Collections.unmodifiableCollection(properties.values());
    }

    /** The properties' names, in order. */
    public Set<String> propertyNames() {
        return Collections.unmodifiableSet(properties.keySet());
    }

    public Optional<PropertySpec> property(String name) {
        return Optional.ofNullable(properties.get(name));
    }

    public Optional<AttributeSpec> attribute(String name) {
        return property(name).map(property -> property instanceof AttributeSpec attribute ? attribute : null);
    }

    /** Adds or replaces a property. */
    public PrimSpec put(PropertySpec property) {
        properties.put(property.name(), property);
        return this;
    }

    /** Adds or replaces an attribute with a default value. */
    public AttributeSpec set(String typeName, String name, Value value) {
        AttributeSpec attribute = new AttributeSpec(name, typeName).setValue(value);
        properties.put(name, attribute);
        return attribute;
    }

    /** Adds or replaces a relationship with exactly these targets. */
    public RelationshipSpec relate(String name, SdfPath... targets) {
        RelationshipSpec relationship = new RelationshipSpec(name).setTargets(ListEdit.explicit(List.of(targets)));
        properties.put(name, relationship);
        return relationship;
    }

    public Optional<PropertySpec> removeProperty(String name) {
        return Optional.ofNullable(properties.remove(name));
    }

    public Collection<PrimSpec> children() {
        return Collections.unmodifiableCollection(children.values());
    }

    /** The children's names, in order. */
    public Set<String> childNames() {
        return Collections.unmodifiableSet(children.keySet());
    }

    public Optional<PrimSpec> child(String name) {
        return Optional.ofNullable(children.get(name));
    }

    /** Adds a child, at the end, or in the place of the one of the same name. */
    public PrimSpec add(PrimSpec child) {
        children.put(child.name, child);
        return child;
    }

    /** Defines a child prim, at the end. */
    public PrimSpec define(String typeName, String name) {
        return add(new PrimSpec(Specifier.DEF, typeName, name));
    }

    public Optional<PrimSpec> removeChild(String name) {
        return Optional.ofNullable(children.remove(name));
    }

    /** Gives the prim these children, in this order, and no others. */
    public void setChildren(Collection<PrimSpec> wanted) {
        List<PrimSpec> kept = List.copyOf(wanted);
        children.clear();
        kept.forEach(this::add);
    }

    /** Puts a child at a position among its siblings, 0 being the first, in place of one of the same name. */
    public void insert(int position, PrimSpec child) {
        Ordered.insert(children, position, child.name, child);
    }

    /** Puts a property at a position among the others, 0 being the first, in place of one of the same name. */
    public void insert(int position, PropertySpec property) {
        Ordered.insert(properties, position, property.name(), property);
    }

    /** Variants by variant set and name; live. */
    public Map<String, Map<String, VariantSpec>> variantSets() {
        return variantSets;
    }

    /** The variant, made where it is missing. */
    public VariantSpec variant(String set, String variant) {
        return variantSets
                .computeIfAbsent(set, s -> new LinkedHashMap<>())
                .computeIfAbsent(variant, v -> new VariantSpec(v, new PrimSpec(Specifier.OVER, "", name)));
    }

    /** Says that the prim has these variant sets, the strongest first; sets that are not named do not count. */
    public void setVariantSetNames(String... sets) {
        metadata().put("variantSets", new Value.TokenEdit(ListEdit.prepend(List.of(sets))));
    }

    /** Selects a variant; selections of other sets stay. */
    public void select(String set, String variant) {
        Map<String, String> selections = new LinkedHashMap<>();
        if (metadata().get("variants") instanceof Value.Selections(Map<String, String> before)) {
            selections.putAll(before);
        }
        selections.put(set, variant);
        metadata().put("variants", new Value.Selections(selections));
    }

    /** Gives the prim exactly these references. */
    public PrimSpec setReferences(Reference... references) {
        metadata().put("references", new Value.ReferenceEdit(ListEdit.prepend(List.of(references))));
        return this;
    }

    /** The references that this spec gives the prim, strongest first. */
    public List<Reference> references() {
        return metadata().get("references") instanceof Value.ReferenceEdit(ListEdit<Reference> edit)
                ? edit.applyTo(List.of())
                : List.of();
    }

    /** Gives the prim a reference in the place of those that it has, in the time of the first of them. */
    public PrimSpec replaceReferences(Reference reference) {
        return setReferences(references().stream()
                .findFirst()
                .map(before -> reference.timedAs(before.offset()))
                .orElse(reference));
    }

    /** Gives the prim exactly these payloads. */
    public PrimSpec setPayloads(Reference... payloads) {
        metadata().put("payload", new Value.ReferenceEdit(ListEdit.prepend(List.of(payloads))));
        return this;
    }

    public void setApiSchemas(String... schemas) {
        metadata().put("apiSchemas", new Value.TokenEdit(ListEdit.prepend(List.of(schemas))));
    }

    /** Applies an API schema, or takes it away; the others that this spec applies stay. */
    public void applyApiSchema(String schema, boolean wanted) {
        List<String> schemas = new ArrayList<>();
        if (metadata().get("apiSchemas") instanceof Value.TokenEdit(ListEdit<String> edit)) {
            schemas.addAll(edit.applyTo(List.of()));
        }
        boolean changed = wanted ? !schemas.contains(schema) && schemas.add(schema) : schemas.remove(schema);
        if (changed && schemas.isEmpty()) {
            metadata().remove("apiSchemas");
        } else if (changed) {
            setApiSchemas(schemas.toArray(String[]::new));
        }
    }

    /** A deep copy; values, which never change, are shared. */
    public PrimSpec copy() {
        return copyAs(name);
    }

    /** A deep copy under another name. */
    public PrimSpec copyAs(String newName) {
        PrimSpec copy = new PrimSpec(specifier, typeName, newName);
        copyOwnTo(copy);
        children.values().forEach(child -> copy.add(child.copy()));
        variantSets.forEach((set, variants) -> {
            Map<String, VariantSpec> copies = new LinkedHashMap<>();
            variants.forEach((variant, spec) ->
                    copies.put(variant, new VariantSpec(variant, spec.contents().copyAs(newName))));
            copy.variantSets.put(set, copies);
        });
        return copy;
    }

    /** A copy of what is said of the prim itself: metadata and properties, without children and variants. */
    public PrimSpec copyOfOwn() {
        PrimSpec copy = new PrimSpec(specifier, typeName, name);
        copyOwnTo(copy);
        return copy;
    }

    private void copyOwnTo(PrimSpec copy) {
        copyMetadataTo(copy);
        properties.values().forEach(property -> copy.put(property.copy()));
    }

    /** Whether the other says exactly the same, everything below included. Lazy values are read for it. */
    public boolean sameAs(PrimSpec other) {
        return name.equals(other.name)
                && specifier == other.specifier
                && typeName.equals(other.typeName)
                && sameMetadata(other)
                && List.copyOf(properties.keySet()).equals(List.copyOf(other.properties.keySet()))
                && properties.values().stream().allMatch(p -> p.sameAs(other.properties.get(p.name())))
                && List.copyOf(children.keySet()).equals(List.copyOf(other.children.keySet()))
                && children.values().stream().allMatch(child -> child.sameAs(other.children.get(child.name)))
                && sameVariants(other);
    }

    private boolean sameVariants(PrimSpec other) {
        if (!variantSets.keySet().equals(other.variantSets.keySet())) {
            return false;
        }
        for (var set : variantSets.entrySet()) {
            Map<String, VariantSpec> others = other.variantSets.getOrDefault(set.getKey(), Map.of());
            if (!set.getValue().keySet().equals(others.keySet())
                    || !set.getValue().values().stream().allMatch(v -> v.contents()
                            .sameAs(others.get(v.name()).contents()))) {
                return false;
            }
        }
        return true;
    }
}
