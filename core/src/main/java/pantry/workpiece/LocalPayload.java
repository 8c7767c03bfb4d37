package pantry.workpiece;

import java.util.List;
import java.util.Optional;
import pantry.usd.ListEdit;
import pantry.usd.PrimSpec;
import pantry.usd.Reference;
import pantry.usd.Value;

/** What a prim has as its payload. */
record LocalPayload(PrimSpec prim) {
    /** The asset path of its one payload; empty where there is none, or more than one. */
    Optional<String> only() {
        if (prim.metadata().get("payload") instanceof Value.ReferenceEdit(ListEdit<Reference> edit)) {
            List<Reference> payloads = edit.applyTo(List.of());
            if (payloads.size() == 1 && !payloads.getFirst().asset().isEmpty()) {
                return Optional.of(payloads.getFirst().asset());
            }
        }
        return Optional.empty();
    }
}
