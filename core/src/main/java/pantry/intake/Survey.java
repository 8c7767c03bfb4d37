package pantry.intake;

import java.util.List;
import pantry.exchange.Axis;
import pantry.exchange.Facts;
import pantry.exchange.Imported;

/**
 * What is told of an arrival before it is shelved; without its surfaces, so that thousands can wait.
 *
 * @param facts in the file's own unit
 * @param missing the names of the textures that were not found
 * @param carried what it carries besides itself
 */
public record Survey(Outline outline, Facts facts, List<String> missing, List<Told> carried) {
    /** A kind of what is carried, with the names of what is. */
    public record Told(Carried.Kind kind, List<String> names) {}

    public static Survey of(Imported arrival) {
        List<Told> carried = Carried.of(arrival.model(), arrival.up().orElse(Axis.Y)).stream()
                .map(each -> new Told(each.kind(), each.names()))
                .toList();
        return new Survey(Outline.of(arrival), Facts.of(arrival), Intake.missing(arrival), carried);
    }
}
