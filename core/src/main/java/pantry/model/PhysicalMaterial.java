package pantry.model;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;
import pantry.usd.SdfPath;

/**
 * How surfaces touch others and how heavy what they bound is, as UsdPhysicsMaterialAPI says it. What is not said is left
 * to whatever simulates it.
 *
 * @param path of the prim that says it, in the asset's entry layer; empty where none does yet
 * @param staticFriction the coefficient of friction of what rests, no unit
 * @param dynamicFriction the coefficient of friction of what slides, no unit
 * @param restitution how much of its speed a thing has after it bounced, 0 to 1
 * @param density kilograms per cubic metre
 */
public record PhysicalMaterial(
        Optional<SdfPath> path,
        OptionalDouble staticFriction,
        OptionalDouble dynamicFriction,
        OptionalDouble restitution,
        OptionalDouble density) {
    /** What nobody has said anything of. */
    public static final PhysicalMaterial UNSAID = new PhysicalMaterial(
            Optional.empty(),
            OptionalDouble.empty(),
            OptionalDouble.empty(),
            OptionalDouble.empty(),
            OptionalDouble.empty());

    /** More than this is no coefficient of friction that anything has; rubber on rubber comes to about 1. */
    public static final double MOST_FRICTION = 10;

    /** The densest of all metals has 22,600 kg/m³. */
    public static final double MOST_DENSITY = 25_000;

    /** Whether nothing is said. */
    public boolean isEmpty() {
        return staticFriction.isEmpty() && dynamicFriction.isEmpty() && restitution.isEmpty() && density.isEmpty();
    }

    /** The same with another density, kilograms per cubic metre. */
    public PhysicalMaterial withDensity(double number) {
        return new PhysicalMaterial(path, staticFriction, dynamicFriction, restitution, OptionalDouble.of(number));
    }

    /** The same numbers, said by a prim. */
    public PhysicalMaterial at(SdfPath prim) {
        return new PhysicalMaterial(Optional.of(prim), staticFriction, dynamicFriction, restitution, density);
    }

    /** What the prim that says it is called; empty where none does yet. */
    public String name() {
        return path.map(SdfPath::name).orElse("");
    }

    /** What is said, for a person: {@code friction 0.6 at rest and 0.5 sliding, bounce 0.1, density 700 kg/m³}. */
    public String words() {
        List<String> words = new ArrayList<>();
        String sliding = dynamicFriction.isPresent() ? plain(dynamicFriction.getAsDouble()) + " sliding" : "";
        if (staticFriction.isPresent()) {
            String resting = plain(staticFriction.getAsDouble()) + " at rest";
            words.add("friction " + resting + (sliding.isEmpty() ? "" : " and " + sliding));
        } else if (!sliding.isEmpty()) {
            words.add("friction " + sliding);
        }
        restitution.ifPresent(number -> words.add("bounce " + plain(number)));
        density.ifPresent(number -> words.add("density " + plain(number) + " kg/m³"));
        return words.isEmpty() ? "no friction, bounce or density" : String.join(", ", words);
    }

    /** A number without an exponent, and without noughts that say nothing. */
    public static String plain(double number) {
        return Double.isFinite(number)
                ? BigDecimal.valueOf(number).stripTrailingZeros().toPlainString()
                : String.valueOf(number);
    }

    /** What is wrong with the numbers, in a sentence each; nothing where all could be. */
    public List<String> problems() {
        List<String> problems = new ArrayList<>();
        check(problems, "friction at rest", staticFriction, MOST_FRICTION, "");
        check(problems, "friction when sliding", dynamicFriction, MOST_FRICTION, "");
        check(problems, "bounce", restitution, 1, "");
        check(problems, "density", density, MOST_DENSITY, " kg/m³");
        return problems;
    }

    private static void check(List<String> problems, String what, OptionalDouble value, double most, String unit) {
        if (value.isPresent() && !(value.getAsDouble() >= 0 && value.getAsDouble() <= most)) {
            problems.add(String.format(Locale.ROOT, "%s is a number from 0 to %,.0f%s", what, most, unit));
        }
    }
}
