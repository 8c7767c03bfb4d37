package pantry.intake;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import pantry.base.math.Matrix4;
import pantry.mesh.ConnectedParts;
import pantry.mesh.Merging;
import pantry.mesh.Mesh;
import pantry.model.Model;

/** Rearranges a model's objects; nothing moves in the world. */
final class Parts {
    private Parts() {}

    static Model arranged(Model model, PartsMode mode) {
        return switch (mode) {
            case KEEP -> model;
            case BY_MATERIAL -> {
                List<Model.Node> nodes = new ArrayList<>();
                for (Model.Part part : merged(model)) {
                    nodes.add(Model.Node.of(part.material().title(), Matrix4.IDENTITY, List.of(part), List.of()));
                }
                yield new Model(model.name(), nodes, model.extras());
            }
            case SINGLE ->
                new Model(
                        model.name(),
                        List.of(Model.Node.of(model.name(), Matrix4.IDENTITY, merged(model), List.of())),
                        model.extras());
            case APART -> new Model(model.name(), apart(model), model.extras());
        };
    }

    /** What parts have in common that become one. */
    private record Made(Object material, Object looks) {
        static Made of(Model.Part part) {
            return new Made(part.material(), part.looks());
        }
    }

    private static List<Model.Part> merged(Model model) {
        Map<Made, List<Mesh>> meshes = new LinkedHashMap<>();
        Map<Made, Model.Part> first = new LinkedHashMap<>();
        model.visit((owner, part, world) -> {
            meshes.computeIfAbsent(Made.of(part), made -> new ArrayList<>())
                    .add(part.mesh().transformed(world));
            first.putIfAbsent(Made.of(part), part);
        });
        List<Model.Part> parts = new ArrayList<>();
        meshes.forEach((made, placed) -> parts.add(new Model.Part(
                Merging.of(placed), first.get(made).material(), first.get(made).looks())));
        return parts;
    }

    /** Each connected part as an object, named after the one that it was in. */
    private static List<Model.Node> apart(Model model) {
        List<Model.Node> nodes = new ArrayList<>();
        Map<String, Integer> numbers = new LinkedHashMap<>();
        model.visit((owner, part, world) -> {
            for (Mesh each : ConnectedParts.of(part.mesh())) {
                int number = numbers.merge(owner.name(), 1, Integer::sum);
                nodes.add(Model.Node.of(
                        owner.name() + " part " + number,
                        world,
                        List.of(new Model.Part(each, part.material(), part.looks())),
                        List.of()));
            }
        });
        return nodes;
    }
}
