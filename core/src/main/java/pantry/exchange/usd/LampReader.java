package pantry.exchange.usd;

import java.util.ArrayList;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Predicate;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.model.Axis;
import pantry.model.BlackBody;
import pantry.model.Colour;
import pantry.model.Lamp;
import pantry.model.Texture;
import pantry.usd.SdfPath;
import pantry.usd.UsdException;
import pantry.usd.compose.Prim;
import pantry.usd.compose.Stage;
import pantry.usd.schema.Imageable;
import pantry.usd.schema.PointInstancer;
import pantry.usd.schema.Values;

/**
 * Reads the lights of a stage (UsdLux), those in instances wherever they stand. What is hidden or inactive does not shine.
 *
 * <p>Units as UsdLux has them: an intensity, doubled with each stop of exposure, is the radiance of the light's surface, or
 * with {@code normalize} what all of it sends out. A dome's picture counts where it goes once around and up (latlong); light
 * links, textures of rectangles and other pictures of domes are passed over. From memory of the schemas' documentation; the irradiances are checked in the tests against the closed
 * forms of radiometry.
 */
public final class LampReader {
    private static final double NO_SHADE = 90;

    private final Stage stage;
    private final Predicate<SdfPath> leftOut;
    private final Map<Prim, List<Lamp>> shared = new IdentityHashMap<>();

    private LampReader(Stage stage, Predicate<SdfPath> leftOut) {
        this.stage = stage;
        this.leftOut = leftOut;
    }

    /**
     * Reads all lights, in the stage's own unit and axes.
     *
     * @param leftOut prims that do not shine, nor what is below them; asked of those outside of instances
     */
    public static List<Lamp> read(Stage stage, Predicate<SdfPath> leftOut) {
        return List.copyOf(new LampReader(stage, leftOut).below(stage.root(), Imageable.ROOT, false));
    }

    /** The lamps among what hangs on a prim, in its space. */
    private List<Lamp> below(Prim parent, Imageable above, boolean inShared) {
        List<Lamp> found = new ArrayList<>();
        for (Prim prim : parent.children()) {
            if (prim.isActive() && !prim.isAbstract() && prim.isDefined() && (inShared || !leftOut.test(prim.path()))) {
                for (Lamp lamp : of(prim, above, inShared)) {
                    found.add(lamp.at(UsdModelReader.place(prim)));
                }
            }
        }
        return found;
    }

    /** The lamps of a prim and of what hangs on it, in its space. */
    private List<Lamp> of(Prim prim, Imageable above, boolean inShared) {
        Imageable seen = above.at(prim);
        if (!seen.visible()) {
            return List.of();
        }
        if (prim.typeName().equals(PointInstancer.TYPE)) {
            return instanced(prim, seen);
        }
        List<Lamp> children = prim.prototype().map(this::contents).orElseGet(() -> below(prim, seen, inShared));
        Optional<Lamp> own = lamp(prim);
        if (own.isEmpty()) {
            return children;
        }
        List<Lamp> all = new ArrayList<>(children);
        all.add(own.get());
        return all;
    }

    /** The lamps of what instances share. */
    private List<Lamp> contents(Prim prototype) {
        List<Lamp> known = shared.get(prototype);
        if (known == null) {
            known = below(prototype, Imageable.ROOT, true);
            shared.put(prototype, known);
        }
        return known;
    }

    private List<Lamp> instanced(Prim prim, Imageable seen) {
        try {
            PointInstancer instancer = PointInstancer.of(prim);
            List<List<Lamp>> each = new ArrayList<>();
            for (SdfPath path : instancer.prototypes()) {
                each.add(stage.prim(path)
                        .map(target -> of(target, seen, true).stream()
                                .map(lamp -> lamp.at(UsdModelReader.place(target)))
                                .toList())
                        .orElse(List.of()));
            }
            List<Lamp> found = new ArrayList<>();
            for (int use = 0; use < instancer.count(); use++) {
                if (instancer.isShown(use)) {
                    for (Lamp lamp : each.get(instancer.prototype(use))) {
                        found.add(lamp.at(instancer.transform(use)));
                    }
                }
            }
            return found;
        } catch (UsdException e) {
            // It is said where its shapes are read.
            return List.of();
        }
    }

    private Optional<Lamp> lamp(Prim prim) {
        return switch (prim.typeName()) {
            case "DomeLight", "DomeLight_1" ->
                Optional.of(new Lamp.Dome(
                        radiance(prim, 1), UsdFixtures.picture(prim).flatMap(Texture::file), pole(prim)));
            case "DistantLight" -> Optional.of(distant(prim));
            case "SphereLight" -> {
                double radius = Values.number(prim, "inputs:radius", 0.5);
                boolean point = Values.flag(prim, "treatAsPoint");
                yield Optional.of(near(prim, Math.PI * radius * radius, 4, point ? 0 : radius, false));
            }
            case "RectLight" -> {
                double width = Values.number(prim, "inputs:width", 1);
                double height = Values.number(prim, "inputs:height", 1);
                yield Optional.of(near(prim, width * height, 1, Math.max(width, height) / 2, true));
            }
            case "DiskLight" -> {
                double radius = Values.number(prim, "inputs:radius", 0.5);
                yield Optional.of(near(prim, Math.PI * radius * radius, 1, radius, true));
            }
            case "CylinderLight" -> {
                double radius = Values.number(prim, "inputs:radius", 0.5);
                double length = Values.number(prim, "inputs:length", 1);
                // Seen from its side; from its ends it sends less.
                yield Optional.of(near(prim, 2 * radius * length, Math.PI, length / 2, false));
            }
            default -> Optional.empty();
        };
    }

    private static Colour radiance(Prim prim, double intensity) {
        double strength = Values.number(prim, "inputs:intensity", intensity)
                * Math.pow(2, Values.number(prim, "inputs:exposure", 0))
                * Values.number(prim, "inputs:diffuse", 1);
        Colour colour = UsdMaterialReader.colour(prim, "inputs:color", Colour.WHITE);
        return (Values.flag(prim, "inputs:enableColorTemperature")
                        ? colour.times(BlackBody.colour(Values.number(prim, "inputs:colorTemperature", 6500)))
                        : colour)
                .times(strength);
    }

    /** How a dome stands in its prim: its pole is y, or for the newer schema what it says (from memory of the schemas). */
    private Matrix4 pole(Prim prim) {
        String axis = prim.typeName().equals("DomeLight")
                ? "Y"
                : Values.token(prim, "poleAxis").orElse("scene");
        boolean isZ = axis.equals("Z") || axis.equals("scene") && UsdModelReader.upAxis(stage.rootLayer()) == Axis.Z;
        return isZ ? Axis.Z.toYUp().inverse() : Matrix4.IDENTITY;
    }

    private static Lamp distant(Prim prim) {
        double half = Math.sin(Math.toRadians(Values.number(prim, "inputs:angle", 0.53)) / 2);
        boolean whole = Values.flag(prim, "inputs:normalize") || half == 0;
        // The solid angle of the sun's disc, as much of it as falls on a surface that faces it.
        double share = whole ? 1 : Math.PI * half * half;
        return new Lamp.Distant(radiance(prim, 50_000).times(share), new Vec3(0, 0, 1));
    }

    /**
     * @param area of the light as it is seen from a side
     * @param times how many of that its whole surface has
     */
    private static Lamp near(Prim prim, double area, double times, double reach, boolean flat) {
        boolean whole = Values.flag(prim, "inputs:normalize");
        double edge = Values.number(prim, "inputs:shaping:cone:angle", NO_SHADE);
        double soft = Math.clamp(Values.number(prim, "inputs:shaping:cone:softness", 0), 0, 1);
        boolean shaded = edge < NO_SHADE;
        Lamp.Spread spread = new Lamp.Spread(
                flat,
                shaded ? Math.cos(Math.toRadians(edge)) : -1,
                shaded ? Math.cos(Math.toRadians(edge * (1 - soft))) : -1);
        return new Lamp.Near(
                radiance(prim, 1).times(whole ? 1 / times : area),
                Vec3.ZERO,
                reach,
                new Vec3(0, 0, -1),
                spread,
                !whole);
    }
}
