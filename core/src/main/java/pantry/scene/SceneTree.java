package pantry.scene;

import java.util.ArrayList;
import java.util.List;
import pantry.usd.Reference;
import pantry.usd.compose.CompositionProblem;
import pantry.usd.compose.Opinion;
import pantry.usd.compose.Prim;
import pantry.usd.compose.Stage;

/** A composed scene as a list of prims, in the field names that scripts rely on. */
public record SceneTree(List<Line> prims, List<Error> errors) {
    /**
     * A prim.
     *
     * @param prototype the shared prim below an instance; empty where it is none
     * @param references the files and prims that the scene itself makes it refer to, as written
     * @param arcs what brings something in here, the strongest first
     */
    public record Line(
            String path,
            String type,
            String kind,
            boolean active,
            boolean loaded,
            boolean instance,
            String prototype,
            List<String> references,
            List<Arc> arcs) {}

    /** An arc and where it leads. */
    public record Arc(String arc, String layer, String path) {
        static Arc of(Opinion.Site site) {
            return new Arc(site.arc().word(), site.layer().name(), site.path().toString());
        }
    }

    /** Something that could not be composed. */
    public record Error(String path, String kind, String message, List<String> chain) {}

    public SceneTree {
        prims = List.copyOf(prims);
        errors = List.copyOf(errors);
    }

    public static SceneTree of(Stage stage) {
        List<Line> lines = new ArrayList<>();
        stage.forEachPrim(prim -> lines.add(line(prim)));
        return new SceneTree(
                lines, stage.problems().stream().map(SceneTree::error).toList());
    }

    private static Line line(Prim prim) {
        return new Line(
                prim.path().toString(),
                prim.typeName(),
                prim.kind(),
                prim.isActive(),
                prim.isLoaded(),
                prim.isInstance(),
                prim.prototype().map(p -> p.path().toString()).orElse(""),
                prim.localReferences().stream().map(SceneTree::written).toList(),
                prim.arcs().stream().map(Arc::of).toList());
    }

    private static String written(Reference reference) {
        return reference.asset()
                + reference.prim().map(path -> "<" + path + ">").orElse("");
    }

    private static Error error(CompositionProblem problem) {
        return new Error(
                problem.prim().toString(),
                problem.kind().name().toLowerCase(java.util.Locale.ROOT),
                problem.message(),
                problem.chain());
    }
}
