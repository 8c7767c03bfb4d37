package pantry.intake;

import java.nio.file.Path;
import java.util.List;
import pantry.exchange.format.Imported;
import pantry.model.Axis;
import pantry.model.Facts;

/**
 * What is told of an arrival before it is shelved; without its surfaces, so that thousands can wait.
 *
 * @param facts in the file's own unit
 * @param missing the names of what was not found, or may not be read
 * @param outside the folders that would have to be allowed for what may not be read
 * @param carried what it carries besides itself
 */
public record Survey(
        ArrivalSummary outline, Facts facts, List<String> missing, List<Path> outside, List<Told> carried) {
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
        return new Survey(ArrivalSummary.of(arrival), arrival.facts(), Intake.missing(arrival), outside, carried);
    }
}
