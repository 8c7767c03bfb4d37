package pantry.exchange.usd;

import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import pantry.model.PhysicalMaterial;
import pantry.usd.Layer;
import pantry.usd.ListEdit;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;
import pantry.usd.Specifier;
import pantry.usd.Value;
import pantry.usd.compose.Prim;
import pantry.usd.compose.Stage;
import pantry.usd.schema.MaterialBindings;

/**
 * Reads and writes physical materials: prims with {@code PhysicsMaterialAPI}, bound for the purpose {@code physics}.
 *
 * <p>Source: OpenUSD, UsdPhysics, rigid body physics: physics materials.
 */
public final class UsdPhysicalMaterials {
    private static final String PURPOSE = "physics";

    private static final String SCHEMA = "PhysicsMaterialAPI";
    private static final String BINDING = "material:binding:" + PURPOSE;
    private static final String BINDING_SCHEMA = "MaterialBindingAPI";
    private static final String STATIC_FRICTION = "physics:staticFriction";
    private static final String DYNAMIC_FRICTION = "physics:dynamicFriction";
    private static final String RESTITUTION = "physics:restitution";
    private static final String DENSITY = "physics:density";

    /** The prim of a material that holds for the whole of an asset. */
    private static final String PRIM = "PhysicalMaterial";

    private UsdPhysicalMaterials() {}

    /** The physical materials of a stage, those within instances left out: they belong to what is instanced. */
    public static List<PhysicalMaterial> of(Stage stage) {
        return stage.prims()
                .filter(prim -> !prim.isAbstract() && prim.apiSchemas().contains(SCHEMA))
                .map(UsdPhysicalMaterials::read)
                .toList();
    }

    /** The physical material that is bound at a prim, for it and those below; empty where one further up holds on. */
    public static Optional<PhysicalMaterial> boundAt(Prim prim, Stage stage, MaterialBindings bindings) {
        return bindings.of(prim, PURPOSE, Optional.empty())
                .filter(binding -> binding.prim().equals(prim.path()))
                .flatMap(binding -> stage.prim(binding.material()))
                .filter(material -> material.apiSchemas().contains(SCHEMA))
                .map(UsdPhysicalMaterials::read);
    }

    private static PhysicalMaterial read(Prim prim) {
        return new PhysicalMaterial(
                Optional.of(prim.path()),
                number(prim, STATIC_FRICTION),
                number(prim, DYNAMIC_FRICTION),
                number(prim, RESTITUTION),
                number(prim, DENSITY));
    }

    /** The properties have single precision: a number is the shortest that comes to the same there, as it was written. */
    private static OptionalDouble number(Prim prim, String name) {
        return switch (prim.value(name).orElse(null)) {
            case Value.Real(double number) -> OptionalDouble.of(Double.parseDouble(Float.toString((float) number)));
            case Value.Int(long number) -> OptionalDouble.of(number);
            case null, default -> OptionalDouble.empty();
        };
    }

    /**
     * Says the numbers of a physical material in an entry layer, over what weaker layers say; one without a path is made
     * for the whole of the asset.
     */
    public static void write(Layer entry, PhysicalMaterial material) {
        PrimSpec prim = material.path().map(path -> over(entry, path)).orElseGet(() -> {
            PrimSpec root = root(entry)
                    .orElseThrow(() ->
                            new IllegalArgumentException("the layer does not say which of its prims is the root"));
            bind(entry, root);
            return root.child(PRIM).orElseGet(() -> root.define("Material", PRIM));
        });
        prim.applyApiSchema(SCHEMA, true);
        say(prim, STATIC_FRICTION, material.staticFriction());
        say(prim, DYNAMIC_FRICTION, material.dynamicFriction());
        say(prim, RESTITUTION, material.restitution());
        say(prim, DENSITY, material.density());
    }

    private static Optional<PrimSpec> root(Layer layer) {
        return layer.defaultPrimPath().flatMap(layer::prim);
    }

    private static void bind(Layer entry, PrimSpec root) {
        root.applyApiSchema(BINDING_SCHEMA, true);
        root.relate(BINDING, entry.defaultPrimPath().orElseThrow().child(PRIM));
    }

    private static PrimSpec over(Layer layer, SdfPath path) {
        PrimSpec at = layer.root();
        for (String name : path.names()) {
            PrimSpec parent = at;
            at = parent.child(name).orElseGet(() -> parent.add(new PrimSpec(Specifier.OVER, "", name)));
        }
        return at;
    }

    /** What is not said is blocked, so that nothing weaker says it. */
    private static void say(PrimSpec prim, String name, OptionalDouble number) {
        if (number.isPresent()) {
            prim.set("float", name, new Value.Real(number.getAsDouble()));
        } else {
            prim.set("float", name, new Value.Block());
        }
    }

    /** Whether an entry layer says something of the whole of its asset. */
    public static boolean isOfWhole(Layer entry) {
        return ofWhole(entry).isPresent();
    }

    /** Whether nothing is said below a prim but by {@link #write}. */
    public static boolean hasNothingBesides(PrimSpec root) {
        return root.children().stream().allMatch(UsdPhysicalMaterials::isOfPhysics);
    }

    private static boolean isOfPhysics(PrimSpec prim) {
        boolean material = prim.metadata().get("apiSchemas") instanceof Value.TokenEdit(ListEdit<String> edit)
                && edit.applyTo(List.of()).equals(List.of(SCHEMA));
        return material
                ? prim.children().isEmpty()
                : prim.specifier() == Specifier.OVER
                        && prim.properties().isEmpty()
                        && !prim.children().isEmpty()
                        && hasNothingBesides(prim);
    }

    private static Optional<PrimSpec> ofWhole(Layer entry) {
        return root(entry).filter(root -> root.property(BINDING).isPresent()).flatMap(root -> root.child(PRIM));
    }

    /**
     * Has the entry layer of an asset's next version say of the whole what the one before said, unless the new one says
     * something itself.
     *
     * @return whether there was something to be said
     */
    public static boolean carry(Layer before, Layer entry, Stage now) {
        Optional<PrimSpec> material = ofWhole(before);
        Optional<PrimSpec> root = root(entry);
        if (material.isEmpty() || root.isEmpty() || saysItself(now)) {
            return false;
        }
        root.get().removeChild(PRIM);
        root.get().add(material.get().copy());
        bind(entry, root.get());
        return true;
    }

    private static boolean saysItself(Stage stage) {
        return stage.defaultPrim()
                .filter(root -> root.targets(BINDING).stream()
                        .anyMatch(target -> stage.prim(target).isPresent()))
                .isPresent();
    }
}
