package pantry.usd;

import java.util.Collection;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;

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

    public Collection<PropertySpec> properties() {
        return Collections.unmodifiableCollection(properties.values());
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
        RelationshipSpec relationship =
                new RelationshipSpec(name).setTargets(ListEdit.explicit(java.util.List.of(targets)));
        properties.put(name, relationship);
        return relationship;
    }

    public Collection<PrimSpec> children() {
        return Collections.unmodifiableCollection(children.values());
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

    /** Puts a child at a position among its siblings; 0 is first. */
    void insert(int position, PrimSpec child) {
        LinkedHashMap<String, PrimSpec> rest = new LinkedHashMap<>();
        int at = 0;
        for (var sibling : children.entrySet()) {
            if (at++ >= position) {
                rest.put(sibling.getKey(), sibling.getValue());
            }
        }
        rest.keySet().forEach(children::remove);
        children.put(child.name, child);
        children.putAll(rest);
    }

    /** A child's position among its siblings; -1 where there is none. */
    int position(String name) {
        int at = 0;
        for (String sibling : children.keySet()) {
            if (sibling.equals(name)) {
                return at;
            }
            at++;
        }
        return -1;
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

    /** Gives the prim exactly these references. */
    public PrimSpec setReferences(Reference... references) {
        metadata().put("references", new Value.ReferenceEdit(ListEdit.prepend(java.util.List.of(references))));
        return this;
    }

    /** Gives the prim exactly these payloads. */
    public PrimSpec setPayloads(Reference... payloads) {
        metadata().put("payload", new Value.ReferenceEdit(ListEdit.prepend(java.util.List.of(payloads))));
        return this;
    }

    public void setApiSchemas(String... schemas) {
        metadata().put("apiSchemas", new Value.TokenEdit(ListEdit.prepend(java.util.List.of(schemas))));
    }

    /** A deep copy; values, which never change, are shared. */
    public PrimSpec copy() {
        return copyAs(name);
    }

    /** A deep copy under another name. */
    public PrimSpec copyAs(String newName) {
        PrimSpec copy = new PrimSpec(specifier, typeName, newName);
        copyMetadataTo(copy);
        properties.values().forEach(property -> copy.put(property.copy()));
        children.values().forEach(child -> copy.add(child.copy()));
        variantSets.forEach((set, variants) -> {
            Map<String, VariantSpec> copies = new LinkedHashMap<>();
            variants.forEach((name, variant) -> copies.put(name, variant.copy()));
            copy.variantSets.put(set, copies);
        });
        return copy;
    }
}
