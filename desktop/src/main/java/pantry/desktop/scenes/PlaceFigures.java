package pantry.desktop.scenes;

import pantry.base.math.Vec3;
import pantry.usd.schema.TransformComponents;

/** The nine figures of a place: 0 to 2 its move, metres; 3 to 5 its turn, degrees; 6 to 8 its scale; each x, y, z. */
final class PlaceFigures {
    private PlaceFigures() {}

    static double of(TransformComponents placing, int index) {
        return part(placing, index / 3).get(index % 3);
    }

    /** A place of which one figure is another. */
    static TransformComponents with(TransformComponents placing, int index, double figure) {
        Vec3 old = part(placing, index / 3);
        Vec3 changed = new Vec3(
                index % 3 == 0 ? figure : old.x(),
                index % 3 == 1 ? figure : old.y(),
                index % 3 == 2 ? figure : old.z());
        return switch (index / 3) {
            case 0 -> placing.withMove(changed);
            case 1 -> placing.withTurn(changed);
            default -> placing.withScale(changed);
        };
    }

    /** To the centimetre: nobody drops things to the micrometre. */
    static Vec3 rounded(Vec3 v) {
        return new Vec3(rounded(v.x()), rounded(v.y()), rounded(v.z()));
    }

    static double rounded(double metres) {
        return Math.rint(metres * 100) / 100;
    }

    private static Vec3 part(TransformComponents placing, int number) {
        return switch (number) {
            case 0 -> placing.move();
            case 1 -> placing.turn();
            default -> placing.scale();
        };
    }
}
