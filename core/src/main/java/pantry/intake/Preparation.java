package pantry.intake;

import java.util.EnumSet;
import java.util.IdentityHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.exchange.format.Imported;
import pantry.mesh.Mesh;
import pantry.mesh.Simplification;
import pantry.model.Model;

/** Makes what was read into what is shelved: in metres, Y up, as its slip says. */
public final class Preparation {
    private Preparation() {}

    /** The arrival as it is shelved: in metres, Y up, without what is not wanted, its parts and pivot as the slip says. */
    public static Reduced prepared(Imported arrival, Slip slip) {
        Matrix4 change = slip.up().toMetres(slip.factor());
        Model wanted = Carried.without(arrival.model(), slip.up(), kept(arrival, slip));
        Reduced reduced = reduced(wanted, slip.making().share());
        Model held = held(reduced.model().reframed(change), slip.pivot()).named(slip.name());
        return new Reduced(Parts.arranged(held, slip.parts()), reduced.error() * slip.factor());
    }

    /** The same thing as other variants, prepared like the arrival itself and moved as it is, so that they fit. */
    public static Optional<Imported.Series> series(Imported arrival, Slip slip) {
        Matrix4 change = slip.up().toMetres(slip.factor());
        Matrix4 move = pivotMove(arrival, slip);
        return arrival.series()
                .map(series -> series.with(model -> {
                    Model wanted = Carried.without(model, slip.up(), kept(arrival, slip));
                    Model metres =
                            reduced(wanted, slip.making().share()).model().reframed(change);
                    Model held = move.equals(Matrix4.IDENTITY) ? metres : metres.moved(move);
                    return Parts.arranged(held.named(slip.name()), slip.parts());
                }));
    }

    /** What an arrival carries and is kept; lights and cameras that it is there for always are. */
    static Set<Carried.Kind> kept(Imported arrival, Slip slip) {
        Set<Carried.Kind> kept = EnumSet.noneOf(Carried.Kind.class);
        kept.addAll(slip.making().kept());
        if (arrival.holds() == Imported.Holds.FIXTURES) {
            kept.addAll(Carried.FIXTURES);
        }
        return kept;
    }

    /** By how much an arrival is moved, in metres with Y up, so that it is held as the slip says. */
    static Matrix4 pivotMove(Imported arrival, Slip slip) {
        if (slip.pivot() == Pivot.KEEP) {
            return Matrix4.IDENTITY;
        }
        Model wanted = Carried.without(arrival.model(), slip.up(), kept(arrival, slip));
        return pivotMove(wanted.reframed(slip.up().toMetres(slip.factor())), slip.pivot());
    }

    private static Matrix4 pivotMove(Model model, Pivot pivot) {
        Box3 box = pivot == Pivot.KEEP ? Box3.EMPTY : model.bounds();
        return box.isEmpty()
                ? Matrix4.IDENTITY
                : Matrix4.translation(pivot.of(box).times(-1));
    }

    private static Model held(Model model, Pivot pivot) {
        Matrix4 move = pivotMove(model, pivot);
        return move.equals(Matrix4.IDENTITY) ? model : model.moved(move);
    }

    /**
     * A model of fewer triangles.
     *
     * @param error how far its surfaces have moved, at most, in the model's unit and as placed
     */
    public record Reduced(Model model, double error) {}

    /** Keeps a share of each mesh's triangles. */
    public static Reduced reduced(Model model, double share) {
        return share == 1 ? new Reduced(model, 0) : reduced(model, share, mesh -> true);
    }

    /** Keeps a share of the triangles of some meshes, and the others as they are. */
    static Reduced reduced(Model model, double share, Predicate<Mesh> wanted) {
        Map<Mesh, Double> errors = new IdentityHashMap<>();
        Model fewer = model.withMeshes(mesh -> {
            if (!wanted.test(mesh)) {
                return mesh;
            }
            Simplification.Result result = Simplification.of(mesh, share);
            errors.put(result.mesh(), result.error());
            return result.mesh();
        });
        double[] worst = {0};
        fewer.visit((owner, part, world) -> worst[0] =
                Math.max(worst[0], errors.getOrDefault(part.mesh(), 0.0) * Math.cbrt(Math.abs(world.determinant3()))));
        return new Reduced(fewer, worst[0]);
    }
}
