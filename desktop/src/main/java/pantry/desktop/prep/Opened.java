package pantry.desktop.prep;

import java.util.List;
import java.util.Optional;
import pantry.base.Progress;
import pantry.exchange.usd.UsdModelReader;
import pantry.model.Model;
import pantry.model.Weight;
import pantry.prep.inspect.Finding;
import pantry.prep.inspect.Inspection;
import pantry.prep.inspect.RuleSet;
import pantry.prep.tools.TwinSets;
import pantry.prep.tools.WorkpieceContents;
import pantry.twins.TwinOptions;
import pantry.workpiece.Surroundings;
import pantry.workpiece.Workpiece;

/**
 * A working copy as it is at a moment, with what was found in it.
 *
 * @param twins what could share its shape
 * @param proxy what is drawn while working; empty where there is no proxy
 * @param undo the name of the last change; empty where there is none
 */
public record Opened(
        Basis basis,
        Inspection inspection,
        List<TwinSets.Set> twins,
        WorkpieceContents contents,
        Model model,
        Optional<Model> proxy,
        Weight weight,
        Optional<String> undo,
        Optional<String> redo) {
    /**
     * What stays the same while a working copy is changed.
     *
     * @param piece is changed itself
     */
    public record Basis(
            InspectionItem subject,
            Workpiece piece,
            RuleSet rules,
            Optional<Surroundings> around,
            Model original,
            Weight weightBefore) {}

    /** Looks at a working copy as it is now. */
    static Opened of(Basis basis, Progress progress) {
        Workpiece piece = basis.piece();
        Inspection inspection = Inspection.of(piece, basis.rules(), basis.around(), progress.part(0, 0.8));
        Model proxy = piece.model(UsdModelReader.LIGHT);
        return new Opened(
                basis,
                inspection,
                TwinSets.find(piece, TwinOptions.USUAL, progress.part(0.8, 1)),
                WorkpieceContents.of(piece),
                piece.moving(),
                proxy.objects() == 0 ? Optional.empty() : Optional.of(proxy),
                piece.weight(),
                piece.editor().undoName(),
                piece.editor().redoName());
    }

    public InspectionItem subject() {
        return basis.subject();
    }

    public Workpiece piece() {
        return basis.piece();
    }

    public RuleSet rules() {
        return basis.rules();
    }

    public Optional<Surroundings> around() {
        return basis.around();
    }

    /** What was drawn of it when it was opened. */
    public Model original() {
        return basis.original();
    }

    public Weight weightBefore() {
        return basis.weightBefore();
    }

    public boolean changed() {
        return undo.isPresent();
    }

    /** Whether it differs from what was last saved, or from what it is a copy of. */
    public boolean unsaved() {
        return !piece().editor().unsaved().isEmpty();
    }

    public List<Finding> findings() {
        return inspection.findings();
    }
}
