package pantry.intake;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import pantry.base.math.Matrix4;
import pantry.exchange.Material;
import pantry.exchange.Model;
import pantry.mesh.MeshBuilder;

/** Rearranges a model's objects; nothing moves in the world. */
final class Parts {
    private Parts() {}

    static Model arranged(Model model, PartsMode mode) {
        return switch (mode) {
            case KEEP -> model;
            case BY_MATERIAL -> {
                List<Model.Node> nodes = new ArrayList<>();
                for (Model.Part part : merged(model)) {
                    nodes.add(Model.Node.of(part.material().name(), Matrix4.IDENTITY, List.of(part), List.of()));
                }
                yield new Model(model.name(), nodes, model.extras());
            }
            case SINGLE ->
                new Model(
                        model.name(),
                        List.of(Model.Node.of(model.name(), Matrix4.IDENTITY, merged(model), List.of())),
                        model.extras());
        };
    }

    private static List<Model.Part> merged(Model model) {
        Map<Material, MeshBuilder> builders = new LinkedHashMap<>();
        model.visit((owner, part, world) -> builders.computeIfAbsent(part.material(), m -> new MeshBuilder())
                .add(part.mesh(), world));
        List<Model.Part> parts = new ArrayList<>();
        builders.forEach((material, builder) -> parts.add(new Model.Part(builder.build(), material)));
        return parts;
    }
}
