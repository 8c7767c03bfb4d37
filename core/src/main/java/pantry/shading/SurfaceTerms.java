package pantry.shading;

import java.util.Optional;

/** A network's surface in UsdPreviewSurface's terms, as fields. */
final class SurfaceTerms {
    private final NetworkFields fields;
    private final SurfaceInputs inputs;

    SurfaceTerms(NetworkFields fields) {
        this.fields = fields;
        this.inputs = new SurfaceInputs(fields.surface().category());
    }

    private Field number(SurfaceInputs.Named input) {
        return input.name().isEmpty()
                ? fields.maker().constant(input.usual())
                : fields.surface(input.name(), input.usual());
    }

    private Field colour(SurfaceInputs.Named input, Field weight) {
        Field said = fields.surface(input.name(), input.usual(), input.usual(), input.usual());
        return fields.maker().map(fields.maker().widened(said, 3), weight, (a, b) -> a * b);
    }

    Field baseWeight() {
        return number(inputs.baseWeight());
    }

    Field base() {
        return colour(inputs.base(), baseWeight());
    }

    Field emissiveWeight() {
        return number(inputs.emissiveWeight());
    }

    Field emissive() {
        return colour(inputs.emissive(), emissiveWeight());
    }

    Field metallic() {
        return number(inputs.metallic());
    }

    Field roughness() {
        return number(inputs.roughness());
    }

    /** An opacity of three components is taken by their mean. */
    Field opacity() {
        Field said = fields.surface(inputs.opacity().name(), 1, 1, 1);
        Field.Maker maker = fields.maker();
        return said.width() < 3
                ? maker.component(said, 0)
                : maker.map(
                        maker.component(said, 0),
                        maker.component(said, 1),
                        maker.component(said, 2),
                        (a, b, c) -> (a + b + c) / 3);
    }

    Field coat() {
        return number(inputs.coat());
    }

    Field coatRoughness() {
        return number(inputs.coatRoughness());
    }

    Field ior() {
        return number(inputs.ior());
    }

    /** How far the surface is pushed out along its normal, metres; empty where it is not, or in other directions too. */
    Optional<Field> displacement() {
        if (fields.displacement().isEmpty()) {
            return Optional.empty();
        }
        Field said = fields.displacement("displacement", 0);
        if (said.width() > 1) {
            fields.told("a displacement that is not along the normal");
            return Optional.empty();
        }
        Field scale = fields.maker().component(fields.displacement("scale", 1), 0);
        return Optional.of(fields.maker().map(said, scale, (a, b) -> a * b));
    }

    /** The normal in the space of the surface; empty where nothing is said of it. */
    Optional<Field> normal() {
        String input = inputs.normal().name();
        return fields.says(input)
                ? Optional.of(fields.maker().widened(fields.surface(input, 0, 0, 1), 3))
                : Optional.empty();
    }
}
