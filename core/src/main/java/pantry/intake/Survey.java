package pantry.intake;

import java.nio.file.Path;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import pantry.exchange.format.Imported;
import pantry.model.Axis;
import pantry.model.Facts;
import pantry.model.ShapeDescriptor;

/**
 * What is told of an arrival before it is shelved; without its surfaces, so that thousands can wait.
 *
 * @param facts of the thing itself, without a ground and a sky that came along, in the file's own unit
 * @param whole the facts with these; the same where there are none
 * @param missing the names of what was not found, or may not be read
 * @param outside the folders that would have to be allowed for what may not be read
 * @param carried what it carries besides itself
 */
public record Survey(
        ArrivalSummary outline,
        Facts facts,
        Facts whole,
        List<String> missing,
        List<Path> outside,
        List<Told> carried) {
    /** What can be carried and has no surfaces. */
    private static final Set<Carried.Kind> NOT_AROUND =
            EnumSet.complementOf(EnumSet.of(Carried.Kind.GROUND, Carried.Kind.SKY));

    /** A kind of what is carried, with the names of what is. */
    public record Told(Carried.Kind kind, List<String> names) {}

    public static Survey of(Imported arrival) {
        List<Told> carried = Carried.of(arrival.model(), arrival.up().orElse(Axis.Y)).stream()
                .map(each -> new Told(each.kind(), each.names()))
                .toList();
        List<Path> outside = arrival.refused().stream()
                .flatMap(refusal -> refusal.folder().stream())
                .distinct()
                .toList();
        Facts whole = arrival.facts();
        return new Survey(
                ArrivalSummary.of(arrival),
                carried.stream().allMatch(told -> NOT_AROUND.contains(told.kind()))
                        ? whole
                        : alone(arrival).facts(),
                whole,
                Intake.missing(arrival),
                outside,
                carried);
    }

    private static Imported alone(Imported arrival) {
        return arrival.with(Carried.without(arrival.model(), arrival.up().orElse(Axis.Y), NOT_AROUND));
    }

    /**
     * The facts of what will be shelved.
     *
     * @param kept of what is carried; where only one of ground and sky is, they are those of the thing itself
     */
    public Facts facts(Set<Carried.Kind> kept) {
        return carried.stream().map(Told::kind).allMatch(kind -> NOT_AROUND.contains(kind) || kept.contains(kind))
                ? whole
                : facts;
    }

    /** The shape of a model; empty for what has none of its own, as a material or a motion. */
    public Optional<ShapeDescriptor> shape() {
        return outline.holds() == Imported.Holds.MODEL ? ShapeDescriptor.ofCode(facts.shape()) : Optional.empty();
    }
}
