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
import pantry.usd.Spec;
import pantry.usd.Specifier;
import pantry.usd.Value;
import pantry.usd.file.LayerAssets;

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

    private final Stage stage;
    private final Set<Layer> own;
    private final Instances instances;
    private final boolean linked;
    private final Path target;
    private final Map<SdfPath, SdfPath> prototypes = new HashMap<>();
    private final Deque<Prim> pending = new ArrayDeque<>();

    /** What becomes of instances. */
    public enum Instances {
        /** Each prototype once, as a prim of its own to which its instances refer. */
        SHARED,
        /** Every instance gets its contents written out. */
        EXPANDED
    }

    private Flattener(Stage stage, Instances instances, boolean linked, Path target) {
        this.stage = stage;
        this.own = Set.copyOf(stage.layerStack());
        this.instances = instances;
        this.linked = linked;
        this.target = target.toAbsolutePath().normalize();
    }

    /**
     * @param target the file the layer is meant for: asset values are made relative to its folder
     * @return a layer of its own, not yet written
     */
    public static Layer flatten(Stage stage, Instances instances, Path target) {
        return new Flattener(stage, instances, false, target).run();
    }

    /**
     * As {@link #flatten}, but what the stage's root layer lets refer to other files goes on referring to them, with what
     * that layer says of it.
     */
    public static Layer flattenLinked(Stage stage, Instances instances, Path target) {
        return new Flattener(stage, instances, true, target).run();
    }

    private Layer run() {
        Layer layer = new Layer(target);
        stage.rootLayer().metadata().forEach((key, value) -> {
            if (!ARCS.contains(key)) {
                layer.metadata().put(key, seenFromTarget(value, "", stage.rootLayer()));
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
                .filter(opinion -> own.contains(opinion.layer()) && refersElsewhere(opinion.spec()))
                .findFirst()
                .map(opinion -> {
                    PrimSpec spec = ((PrimSpec) opinion.spec()).copyAs(path.name());
                    LayerAssets.rename(spec, opinion.layer(), written -> seenFromTarget(written, opinion.layer()));
                    return spec;
                });
    }

    private static boolean refersElsewhere(Spec spec) {
        return spec.metadata().get("references") instanceof Value.ReferenceEdit(ListEdit<Reference> edit)
                && edit.applyTo(List.of()).stream().anyMatch(reference -> !reference.isInternal());
    }

    private PrimSpec composed(Prim prim, SdfPath path) {
        PrimSpec spec = new PrimSpec(prim.specifier(), prim.typeName(), path.name());
        for (String field : prim.metadataNames()) {
            if (!ARCS.contains(field)) {
                prim.metadata(field, this::seenFromTarget)
                        .ifPresent(value -> spec.metadata().put(field, value));
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
            prim.propertyMetadata(name, field, this::seenFromTarget)
                    .ifPresent(value -> flat.metadata().put(field, value));
        }
        spec.put(flat);
    }

    private AttributeSpec attribute(Prim prim, Attribute attribute, SdfPath path) {
        AttributeSpec flat = new AttributeSpec(attribute.name(), attribute.typeName());
        flat.setUniform(attribute.uniform());
        flat.setCustom(attribute.custom());
        attribute.defaultValue(this::seenFromTarget).ifPresent(flat::setValue);
        if (attribute.isBlocked()) {
            flat.setValue(new Value.Block());
        }
        for (double time : attribute.times()) {
            flat.timeSamples()
                    .put(time, attribute.valueAt(time, this::seenFromTarget).orElseGet(Value.Block::new));
        }
        List<SdfPath> connections = attribute.connections();
        if (!connections.isEmpty()) {
            flat.setConnections(ListEdit.explicit(
                    connections.stream().map(c -> moved(c, prim, path)).toList()));
        }
        return flat;
    }

    /** Asset paths as they have to be written in the new layer's folder. */
    private Value seenFromTarget(Value value, String type, Layer by) {
        return LayerAssets.renamed(value, type, by, path -> seenFromTarget(path, by));
    }

    private String seenFromTarget(String written, Layer by) {
        return AssetPaths.relative(folder(), stage.resolve(by, written));
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
