package pantry.desktop.prep;

import java.util.List;
import java.util.Optional;
import pantry.model.Model;
import pantry.model.Weight;
import pantry.prep.inspect.Finding;
import pantry.prep.inspect.Inspection;
import pantry.prep.inspect.RuleSet;
import pantry.prep.tools.TwinSets;
import pantry.prep.tools.WorkpieceContents;
import pantry.workpiece.Surroundings;
import pantry.workpiece.Workpiece;

/**
 * A working copy as it is at a moment, with what was found in it.
 *
 * @param twins what could share its shape
 * @param original what was drawn of it when it was opened
 * @param proxy what is drawn while working; empty where there is no proxy
 * @param undo the name of the last change; empty where there is none
 */
public record Opened(
        InspectionItem subject,
        Workpiece piece,
        RuleSet rules,
        Optional<Surroundings> around,
        Inspection inspection,
        List<TwinSets.Set> twins,
        WorkpieceContents contents,
        Model model,
        Model original,
        Optional<Model> proxy,
        Weight weight,
        Weight weightBefore,
        Optional<String> undo,
        Optional<String> redo) {
    public boolean changed() {
        return undo.isPresent();
    }

    /** Whether it differs from what was last saved, or from what it is a copy of. */
    public boolean unsaved() {
        return !piece.editor().unsaved().isEmpty();
    }

    public List<Finding> findings() {
        return inspection.findings();
    }
}
