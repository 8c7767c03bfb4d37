package pantry.usd;

import java.util.List;
import java.util.Optional;
import java.util.function.Function;

/** The paths that a prim spec and those below it speak of: targets, connections, classes and internal references. */
public final class SpecTargets {
    private static final List<String> CLASSES = List.of("inherits", "specializes");
    private static final List<String> REFERENCES = List.of("references", "payload");

    private SpecTargets() {}

    /**
     * Leads paths elsewhere, in place. Variants are left as they are.
     *
     * @param mapping where a path leads from now on; targets and classes for which it is empty are left out, internal
     *     references stay
     */
    public static void remap(PrimSpec prim, Function<SdfPath, Optional<SdfPath>> mapping) {
        for (PropertySpec property : List.copyOf(prim.properties())) {
            switch (property) {
                case RelationshipSpec relationship ->
                    prim.put(relationship
                            .copyAs(relationship.name())
                            .setTargets(relationship.targets().mapPresent(mapping)));
                case AttributeSpec attribute -> {
                    if (!attribute.connections().isEmpty()) {
                        prim.put(attribute
                                .copyAs(attribute.name())
                                .setConnections(attribute.connections().mapPresent(mapping)));
                    }
                }
            }
        }
        for (String field : CLASSES) {
            if (prim.metadata().get(field) instanceof Value.PathEdit(ListEdit<SdfPath> edit)) {
                prim.metadata().put(field, new Value.PathEdit(edit.mapPresent(mapping)));
            }
        }
        for (String field : REFERENCES) {
            if (prim.metadata().get(field) instanceof Value.ReferenceEdit(ListEdit<Reference> edit)) {
                prim.metadata()
                        .put(field, new Value.ReferenceEdit(edit.map(reference -> remapped(reference, mapping))));
            }
        }
        prim.children().forEach(child -> remap(child, mapping));
    }

    private static Reference remapped(Reference reference, Function<SdfPath, Optional<SdfPath>> mapping) {
        return reference
                .prim()
                .filter(path -> reference.isInternal())
                .flatMap(mapping)
                .map(path -> new Reference("", Optional.of(path), reference.offset(), reference.customData()))
                .orElse(reference);
    }
}
