package pantry.exchange.usd;

import java.util.Optional;
import pantry.model.Colour;
import pantry.model.Fixture;
import pantry.model.Texture;
import pantry.usd.Value;
import pantry.usd.compose.Prim;
import pantry.usd.schema.Values;
import pantry.usd.schema.Xforms;

/** Reads the lights and cameras that stand among surfaces, in the stage's own unit and axes. */
final class UsdFixtures {
    /** How the picture of a dome lies: goes once around and up. */
    static final String LATLONG = "latlong";

    private static final String AUTOMATIC = "automatic";

    private UsdFixtures() {}

    /** The light or camera that a prim is; empty where it is neither. */
    static Optional<Fixture> of(Prim prim) {
        String type = prim.typeName();
        if (type.endsWith("Light") || type.startsWith("DomeLight")) {
            return Optional.of(light(prim, type));
        }
        return type.equals("Camera") ? Optional.of(camera(prim)) : Optional.empty();
    }

    private static Fixture light(Prim prim, String type) {
        double exposure = Values.number(prim, "inputs:exposure", 0);
        return new Fixture.Light(
                prim.name(),
                Xforms.world(prim),
                Fixture.Light.Kind.of(type),
                UsdMaterialReader.colour(prim, "inputs:color", Colour.WHITE),
                Values.number(prim, "inputs:intensity", 1) * Math.pow(2, exposure),
                Values.number(prim, "inputs:shaping:cone:angle", 180),
                picture(prim));
    }

    /** The picture of a dome that goes once around and up; empty where it has none, or one that lies otherwise. */
    static Optional<Texture> picture(Prim prim) {
        String format = Values.token(prim, "inputs:texture:format").orElse(AUTOMATIC);
        boolean lies = format.equals(AUTOMATIC) || format.equals(LATLONG);
        return prim.attribute("inputs:texture:file")
                .filter(attribute -> lies && prim.typeName().startsWith("DomeLight"))
                .flatMap(attribute ->
                        attribute.value().orElse(null) instanceof Value.Asset(String written) && !written.isEmpty()
                                ? Optional.of(new Texture(written, attribute.image(written)))
                                : Optional.empty());
    }

    private static Fixture camera(Prim prim) {
        double wide = Values.number(prim, "horizontalAperture", 20.955);
        double high = Values.number(prim, "verticalAperture", 15.2908);
        double focal = Values.number(prim, "focalLength", 50);
        boolean parallel =
                Values.token(prim, "projection").filter("orthographic"::equals).isPresent();
        double angle = parallel ? 0 : Math.toDegrees(2 * Math.atan(high / 2 / focal));
        return new Fixture.Camera(prim.name(), Xforms.world(prim), angle, high > 0 ? wide / high : 1);
    }
}
