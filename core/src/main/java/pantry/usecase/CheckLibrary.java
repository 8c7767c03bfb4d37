package pantry.usecase;

import java.util.ArrayList;
import java.util.List;
import pantry.base.Progress;
import pantry.library.Library;
import pantry.library.Problem;
import pantry.library.Repair;
import pantry.library.Repairs;
import pantry.library.Verification;

/** Checks a library against its seals and rules, and repairs it. */
public final class CheckLibrary {
    private final Library library;
    private final Repairs repairs;

    public CheckLibrary(Library library) {
        this.library = library;
        this.repairs = new Repairs(library);
    }

    /**
     * A problem.
     *
     * @param ways how it can be put right; none where that is for a person to do
     */
    public record Finding(Problem problem, List<Repair> ways) {
        public Finding {
            ways = List.copyOf(ways);
        }
    }

    /** What a check found. */
    public record Result(Verification verification, List<Finding> findings) {
        public Result {
            findings = List.copyOf(findings);
        }
    }

    /** Checks every version, card and reference. */
    public Result run(Progress progress) {
        Verification verification = library.verify(progress);
        List<Finding> findings = new ArrayList<>();
        verification.problems().forEach(problem -> findings.add(new Finding(problem, repairs.of(problem))));
        return new Result(verification, findings);
    }

    /**
     * Repairs whatever can be repaired in the way that loses least.
     *
     * @return what was left as it is, with the reason
     */
    public List<Problem> repairAll(Result found, Progress progress) {
        return repairs.repairAll(found.verification().problems(), progress);
    }
}
