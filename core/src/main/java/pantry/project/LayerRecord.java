package pantry.project;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import pantry.usd.AttributeSpec;
import pantry.usd.Layer;
import pantry.usd.Layers;
import pantry.usd.ListEdit;
import pantry.usd.PrimSpec;
import pantry.usd.PropertySpec;
import pantry.usd.Reference;
import pantry.usd.SdfPath;
import pantry.usd.Value;
import pantry.usd.VariantSpec;

/**
 * The files that one layer names, and where it does.
 *
 * @param arcs each target once for each kind
 */
record LayerRecord(List<Arc> arcs) {
    /** How a file is named. Declared as they are written down in the index. */
    enum Kind {
        SUBLAYER,
        REFERENCE,
        PAYLOAD,
        /** The value of an attribute, such as an image. */
        ASSET
    }

    /**
     * A file that is named.
     *
     * @param target the place that it leads to, where there need not be anything
     * @param places the prims or properties that name it, with the variants in which they do; none for sublayers
     */
    record Arc(Kind kind, Path target, List<String> places) {
        Arc {
            places = List.copyOf(places);
        }
    }

    private record Key(Kind kind, Path target) {}

    LayerRecord {
        arcs = List.copyOf(arcs);
    }

    /** Reads what a layer names. */
    static LayerRecord of(Layer layer, Layers layers) {
        return new Reading(layer, layers).record();
    }

    private static final class Reading {
        private final Layer layer;
        private final Layers layers;
        private final Map<Key, List<String>> found = new LinkedHashMap<>();

        Reading(Layer layer, Layers layers) {
            this.layer = layer;
            this.layers = layers;
        }

        LayerRecord record() {
            layer.subLayers().forEach(sub -> add(Kind.SUBLAYER, sub.asset(), ""));
            layer.rootPrims().forEach(prim -> prim(prim, SdfPath.ROOT.child(prim.name())));
            return new LayerRecord(found.entrySet().stream()
                    .map(entry -> new Arc(entry.getKey().kind(), entry.getKey().target(), entry.getValue()))
                    .toList());
        }

        private void prim(PrimSpec prim, SdfPath path) {
            references(prim, "references", Kind.REFERENCE, path);
            references(prim, "payload", Kind.PAYLOAD, path);
            for (PropertySpec property : prim.properties()) {
                if (property instanceof AttributeSpec attribute
                        && attribute.typeName().startsWith("asset")) {
                    attribute(attribute, path.property(property.name()));
                }
            }
            prim.children().forEach(child -> prim(child, path.child(child.name())));
            prim.variantSets()
                    .forEach((set, variants) ->
                            variants.forEach((name, variant) -> variant(variant, path.variant(set, name))));
        }

        private void variant(VariantSpec variant, SdfPath path) {
            prim(variant.contents(), path);
        }

        private void references(PrimSpec prim, String field, Kind kind, SdfPath path) {
            if (prim.metadata().get(field) instanceof Value.ReferenceEdit(ListEdit<Reference> edit)) {
                for (Reference reference : edit.applyTo(List.of())) {
                    if (!reference.isInternal()) {
                        add(kind, reference.asset(), path.toString());
                    }
                }
            }
        }

        private void attribute(AttributeSpec attribute, SdfPath path) {
            attribute.value().ifPresent(value -> value(value, path));
            for (double time : attribute.timeSamples().times()) {
                attribute.timeSamples().at(time).ifPresent(value -> value(value, path));
            }
        }

        private void value(Value value, SdfPath path) {
            if (value instanceof Value.Asset(String written)) {
                add(Kind.ASSET, written, path.toString());
            } else if (value instanceof Value.Strings(List<String> items)) {
                items.forEach(written -> add(Kind.ASSET, written, path.toString()));
            }
        }

        private void add(Kind kind, String written, String place) {
            if (written.isEmpty()) {
                return;
            }
            Path target = layers.resolve(layer, written).file();
            List<String> places = found.computeIfAbsent(new Key(kind, target), key -> new ArrayList<>());
            if (!place.isEmpty() && (places.isEmpty() || !places.getLast().equals(place))) {
                places.add(place);
            }
        }
    }
}
