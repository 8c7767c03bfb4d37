package pantry.usd.compose;

import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import pantry.usd.AssetPaths;
import pantry.usd.AttributeSpec;
import pantry.usd.Layer;
import pantry.usd.ListEdit;
import pantry.usd.PrimSpec;
import pantry.usd.PropertySpec;
import pantry.usd.Reference;
import pantry.usd.RelationshipSpec;
import pantry.usd.SdfPath;
import pantry.usd.Specifier;
import pantry.usd.Value;

/** Makes one layer without composition arcs out of a stage. */
public final class Flattener {
    private static final Set<String> ARCS = Set.of(
            "references",
            "payload",
            "inherits",
            "specializes",
            "variants",
            "variantSets",
            "apiSchemas",
            "primOrder",
            "propertyOrder",
            "instanceable",
            "relocates");

    private final Instances instances;
    private final boolean linked;
    private final Path target;
    private final Map<SdfPath, SdfPath> prototypes = new HashMap<>();
    private final Deque<Prim> pending = new ArrayDeque<>();
    private Set<Layer> own = Set.of();

    /** What becomes of instances. */
    public enum Instances {
        /** Each prototype once, as a prim of its own to which its instances refer. */
        SHARED,
        /** Every instance gets its contents written out. */
        EXPANDED
    }

    private Flattener(Instances instances, boolean linked, Path target) {
        this.instances = instances;
        this.linked = linked;
        this.target = target.toAbsolutePath().normalize();
    }

    /**
     * @param target the file the layer is meant for: asset values are made relative to its folder
     * @return a layer of its own, not yet written
     */
    public static Layer flatten(Stage stage, Instances instances, Path target) {
        return new Flattener(instances, false, target).run(stage);
    }

    /**
     * As {@link #flatten}, but what the stage's root layer lets refer to other files goes on referring to them, with what
     * that layer says of it.
     */
    public static Layer flattenLinked(Stage stage, Instances instances, Path target) {
        return new Flattener(instances, true, target).run(stage);
    }

    private Layer run(Stage stage) {
        own = Set.copyOf(stage.layerStack());
        Layer layer = new Layer(target);
        stage.rootLayer().metadata().forEach((key, value) -> {
            if (!ARCS.contains(key)) {
                layer.metadata().put(key, value);
            }
        });
        for (Prim prim : stage.root().children()) {
            layer.root().add(prim(prim, prim.path()));
        }
        while (!pending.isEmpty()) {
            Prim prototype = pending.removeFirst();
            PrimSpec spec = prim(prototype, prototypes.get(prototype.path()));
            spec.setSpecifier(Specifier.OVER);
            layer.root().add(spec);
        }
        return layer;
    }

    private PrimSpec prim(Prim prim, SdfPath path) {
        return linked ? reference(prim, path).orElseGet(() -> composed(prim, path)) : composed(prim, path);
    }

    /** What the root layer says of a prim that it lets refer to another file; empty of all other prims. */
    private Optional<PrimSpec> reference(Prim prim, SdfPath path) {
        return prim.opinions().stream()
                .filter(opinion -> own.contains(opinion.layer()))
                .map(Opinion::spec)
                .filter(PrimSpec.class::isInstance)
                .map(PrimSpec.class::cast)
                .filter(Flattener::refersElsewhere)
                .findFirst()
                .map(spec -> spec.copyAs(path.name()));
    }

    private static boolean refersElsewhere(PrimSpec spec) {
        return spec.metadata().get("references") instanceof Value.ReferenceEdit(ListEdit<Reference> edit)
                && edit.applyTo(List.of()).stream().anyMatch(reference -> !reference.isInternal());
    }

    private PrimSpec composed(Prim prim, SdfPath path) {
        PrimSpec spec = new PrimSpec(prim.specifier(), prim.typeName(), path.name());
        for (String field : prim.metadataNames()) {
            if (!ARCS.contains(field)) {
                prim.metadata(field).ifPresent(value -> spec.metadata().put(field, value));
            }
        }
        List<String> schemas = prim.apiSchemas();
        if (!schemas.isEmpty()) {
            spec.setApiSchemas(schemas.toArray(String[]::new));
        }
        for (String name : prim.propertyNames()) {
            property(prim, name, path, spec);
        }
        if (prim.isInstance() && instances == Instances.SHARED) {
            Prim prototype = prim.prototype().orElseThrow();
            SdfPath shared = prototypes.computeIfAbsent(prototype.path(), key -> {
                pending.add(prototype);
                return SdfPath.ROOT.child("Flattened_Prototype_" + (prototypes.size() + 1));
            });
            spec.setReferences(Reference.internal(shared));
            spec.metadata().put("instanceable", new Value.Bool(true));
        } else {
            prim.children().forEach(child -> spec.add(prim(child, path.child(child.name()))));
        }
        return spec;
    }

    private void property(Prim prim, String name, SdfPath path, PrimSpec spec) {
        Optional<Attribute> composed = prim.attribute(name);
        PropertySpec flat;
        if (composed.isPresent()) {
            flat = attribute(prim, composed.get(), path);
        } else {
            RelationshipSpec relationship = new RelationshipSpec(name);
            relationship.setTargets(ListEdit.explicit(
                    prim.targets(name).stream().map(t -> moved(t, prim, path)).toList()));
            flat = relationship;
        }
        for (String field : prim.propertyMetadataNames(name)) {
            prim.propertyMetadata(name, field)
                    .ifPresent(value -> flat.metadata().put(field, value));
        }
        spec.put(flat);
    }

    private AttributeSpec attribute(Prim prim, Attribute attribute, SdfPath path) {
        AttributeSpec flat = new AttributeSpec(attribute.name(), attribute.typeName());
        flat.setUniform(attribute.uniform());
        flat.setCustom(attribute.custom());
        attribute.defaultValue().ifPresent(value -> flat.setValue(seenFromTarget(attribute, value)));
        if (attribute.isBlocked()) {
            flat.setValue(new Value.Block());
        }
        for (double time : attribute.times()) {
            flat.timeSamples()
                    .put(
                            time,
                            attribute
                                    .valueAt(time)
                                    .map(value -> seenFromTarget(attribute, value))
                                    .orElseGet(Value.Block::new));
        }
        List<SdfPath> connections = attribute.connections();
        if (!connections.isEmpty()) {
            flat.setConnections(ListEdit.explicit(
                    connections.stream().map(c -> moved(c, prim, path)).toList()));
        }
        return flat;
    }

    /** Asset paths as they have to be written in the new layer's folder. */
    private Value seenFromTarget(Attribute attribute, Value value) {
        return switch (value) {
            case Value.Asset(String written)
            when !written.isEmpty() -> new Value.Asset(AssetPaths.relative(folder(), attribute.place(written)));
            case Value.Strings(List<String> items)
            when attribute.typeName().equals("asset[]") ->
                new Value.Strings(items.stream()
                        .map(item -> AssetPaths.relative(folder(), attribute.place(item)))
                        .toList());
            default -> value;
        };
    }

    private Path folder() {
        Path folder = target.getParent();
        return folder == null ? Path.of("").toAbsolutePath() : folder;
    }

    /** A target in the flattened namespace: prims below a prototype stand elsewhere there. */
    private static SdfPath moved(SdfPath target, Prim prim, SdfPath flat) {
        SdfPath from = prim.path();
        SdfPath to = flat;
        while (!from.equals(to) && !from.equals(SdfPath.ROOT) && from.name().equals(to.name())) {
            from = from.parent();
            to = to.parent();
        }
        return target.replacePrefix(from, to);
    }
}
