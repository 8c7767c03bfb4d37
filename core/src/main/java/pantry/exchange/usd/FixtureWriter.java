package pantry.exchange.usd;

import java.util.List;
import org.jspecify.annotations.Nullable;
import pantry.base.Names;
import pantry.model.Colour;
import pantry.model.Fixture;
import pantry.usd.PrimSpec;
import pantry.usd.Value;
import pantry.usd.schema.Xforms;

/** Writes lights and cameras as UsdLux and UsdGeom prims, in scopes of their own. */
final class FixtureWriter {
    /** UsdGeomCamera's own vertical aperture, in tenths of a unit; only its ratio to the focal length counts. */
    private static final double APERTURE = 15.2908;

    private FixtureWriter() {}

    static void write(PrimSpec root, List<Fixture> fixtures, Links links) {
        @Nullable PrimSpec lights = null;
        @Nullable PrimSpec cameras = null;
        for (Fixture fixture : fixtures) {
            switch (fixture) {
                case Fixture.Light light -> {
                    lights = lights == null ? root.define("Scope", free(root, "Lights")) : lights;
                    light(lights, light, links);
                }
                case Fixture.Camera camera -> {
                    cameras = cameras == null ? root.define("Scope", free(root, "Cameras")) : cameras;
                    camera(cameras, camera);
                }
            }
        }
    }

    private static String free(PrimSpec parent, String name) {
        return Names.free(Names.identifier(name), taken -> parent.child(taken).isPresent());
    }

    private static void light(PrimSpec scope, Fixture.Light light, Links links) {
        PrimSpec prim = scope.define(light.kind().type(), free(scope, light.name()));
        Xforms.setMatrix(prim, light.world());
        Colour colour = light.colour();
        prim.set("color3f", "inputs:color", new Value.Tuple(colour.r(), colour.g(), colour.b()));
        prim.set("float", "inputs:intensity", new Value.Real(light.intensity()));
        light.picture().map(links::image).filter(path -> !path.isEmpty()).ifPresent(path -> {
            prim.set("asset", "inputs:texture:file", new Value.Asset(path));
            prim.set("token", "inputs:texture:format", new Value.Token(UsdFixtures.LATLONG));
        });
        if (light.kind() == Fixture.Light.Kind.SPHERE) {
            prim.set("bool", "treatAsPoint", new Value.Bool(true));
            prim.set("bool", "inputs:normalize", new Value.Bool(true));
            if (light.coneAngle() < 180) {
                prim.setApiSchemas("ShapingAPI");
                prim.set("float", "inputs:shaping:cone:angle", new Value.Real(light.coneAngle()));
            }
        }
    }

    private static void camera(PrimSpec scope, Fixture.Camera camera) {
        PrimSpec prim = scope.define("Camera", free(scope, camera.name()));
        Xforms.setMatrix(prim, camera.world());
        prim.set("float", "verticalAperture", new Value.Real(APERTURE));
        prim.set("float", "horizontalAperture", new Value.Real(APERTURE * camera.aspect()));
        if (camera.angle() > 0) {
            double focal = APERTURE / 2 / Math.tan(Math.toRadians(camera.angle()) / 2);
            prim.set("float", "focalLength", new Value.Real(focal));
        } else {
            prim.set("token", "projection", new Value.Token("orthographic"));
        }
    }
}
