package pantry.shading;

import java.util.EnumMap;
import java.util.HashSet;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import pantry.model.Material.Slot;
import pantry.model.ShaderNetwork;
import pantry.model.ShaderNetwork.Graph;
import pantry.model.ShaderNetwork.Input;
import pantry.model.ShaderNetwork.Link;
import pantry.model.ShaderNetwork.Node;
import pantry.model.Texture;

/**
 * The images of a network that stand directly behind the surface's inputs, only placed, so that they can be used as they are;
 * others have to be made of what their nodes come to.
 */
final class DirectImages {
    private static final Set<String> IMAGES =
            Set.of("image", "tiledimage", "gltf_image", "gltf_colorimage", "UsdUVTexture");

    private final ShaderNetwork network;

    DirectImages(ShaderNetwork network) {
        this.network = network;
    }

    /** A node, in the graph that it is in. @param graph null outside of all */
    private record Found(Node node, @Nullable Graph graph) {
        /** An input of the node, or what the graph gives it. */
        Optional<Input> input(String name) {
            return node.input(name).flatMap(input -> graph == null ? Optional.of(input) : graph.given(input));
        }

        /** Plain numbers of an input; empty where it is linked. */
        Optional<float[]> numbers(String name, float... otherwise) {
            Optional<Input> said = input(name);
            if (said.isEmpty()) {
                return Optional.of(otherwise);
            }
            if (said.get().link().isPresent()) {
                return Optional.empty();
            }
            float[] numbers = NodeValues.numbers(said.get());
            return numbers.length == otherwise.length ? Optional.of(numbers) : Optional.empty();
        }
    }

    Map<Slot, Texture> bySlot() {
        Map<Slot, Texture> images = new EnumMap<>(Slot.class);
        Node surface = network.nodes().get(network.surface());
        new SurfaceInputs(surface.category()).names().forEach((slot, input) -> surface.input(input)
                .flatMap(Input::link)
                .flatMap(link -> found(link, null, new HashSet<>()))
                .flatMap(found -> image(found, slot))
                .ifPresent(texture -> images.put(slot, texture)));
        network.displacement()
                .map(network.nodes()::get)
                .flatMap(node -> displacement(new Found(node, null)))
                .ifPresent(texture -> images.put(Slot.DISPLACEMENT, texture));
        return images;
    }

    /** The image behind what pushes a surface out, with how far, in metres. */
    private Optional<Texture> displacement(Found shader) {
        return shader.numbers("scale", 1).flatMap(scale -> before(shader, "displacement")
                .flatMap(found -> image(found, Slot.DISPLACEMENT))
                .map(texture -> texture.with(texture.sampling().withStrength(scale[0]))));
    }

    private Optional<Found> found(Link link, @Nullable Graph graph, Set<Link> passed) {
        if (!passed.add(link)) {
            return Optional.empty();
        }
        return switch (link.from()) {
            case NODE ->
                Optional.ofNullable((graph == null ? network.nodes() : graph.nodes()).get(link.name()))
                        .map(node -> new Found(node, graph));
            case GRAPH -> {
                Graph inner = network.graphs().get(link.name());
                yield Optional.ofNullable(inner)
                        .flatMap(each -> each.output(link))
                        .flatMap(output -> found(output.link(), inner, passed));
            }
            case INTERFACE -> Optional.empty();
        };
    }

    private Optional<Found> before(Found found, String input) {
        return found.node()
                .input(input)
                .flatMap(Input::link)
                .filter(link -> link.from() != Link.From.INTERFACE)
                .flatMap(link -> found(link, found.graph(), new HashSet<>()));
    }

    private Optional<Texture> image(Found found, Slot slot) {
        if (slot == Slot.NORMAL) {
            return found.node().category().equals("normalmap")
                    ? found.numbers("scale", 1).flatMap(scale -> before(found, "in")
                            .flatMap(image -> plain(image, slot))
                            .map(texture -> texture.with(texture.sampling().withStrength(scale[0]))))
                    : Optional.empty();
        }
        if (slot.colour()) {
            return plain(found, slot);
        }
        if (found.node().category().equals("extract")) {
            return found.numbers("index", 0).flatMap(index -> before(found, "in")
                    .flatMap(image -> plain(image, slot))
                    .map(texture -> channel(texture, (int) index[0], slot)));
        }
        return found.node().type().equals("float")
                ? plain(found, slot).map(texture -> channel(texture, 0, slot))
                : Optional.empty();
    }

    private static Texture channel(Texture texture, int number, Slot slot) {
        String letter = String.valueOf("rgba".charAt(Math.clamp(number, 0, 3)));
        return texture.with(texture.sampling().with(Texture.Channel.of(letter, slot)));
    }

    /** The image that a node shows, with where it lies; empty where it is no image, or lies in another way. */
    private Optional<Texture> plain(Found found, Slot slot) {
        if (!IMAGES.contains(found.node().category())) {
            return Optional.empty();
        }
        Optional<Input> file = found.input("file");
        boolean inItsSpace = file.filter(input ->
                        input.colourSpace().isEmpty() || input.colourSpace().startsWith("srgb") == slot.colour())
                .isPresent();
        return inItsSpace
                ? file.flatMap(Input::image).flatMap(texture -> placement(found)
                        .map(placement -> texture.with(Texture.Sampling.placed(placement)
                                .with(wrap(found, "uaddressmode", "wrapS"), wrap(found, "vaddressmode", "wrapT")))))
                : Optional.empty();
    }

    private static Texture.Wrap wrap(Found found, String name, String other) {
        return found.input(name)
                .or(() -> found.input(other))
                .map(input -> Texture.Wrap.of(input.value().strip()))
                .orElse(Texture.Wrap.REPEAT);
    }

    private Optional<Texture.Placement> placement(Found found) {
        Optional<Integer> set = set(found);
        if (found.node().category().equals("tiledimage")) {
            return set.flatMap(number -> found.numbers("uvtiling", 1, 1).flatMap(tiling -> found.numbers(
                            "uvoffset", 0, 0)
                    .map(offset -> new Texture.Placement(number, tiling[0], tiling[1], 0, -offset[0], -offset[1]))));
        }
        return set.map(Texture.Placement::on).or(() -> before(found, "texcoord")
                .filter(before -> before.node().category().equals("place2d"))
                .flatMap(this::placed));
    }

    /** The set of texture coordinates on which a node lies as they are; empty where it lies otherwise. */
    private Optional<Integer> set(Found found) {
        if (found.node().input("texcoord").isEmpty()) {
            return Optional.of(0);
        }
        return before(found, "texcoord")
                .filter(before -> before.node().category().equals("texcoord"))
                .flatMap(coordinates -> coordinates.numbers("index", 0))
                .map(index -> (int) index[0])
                .filter(index -> index >= 0 && index < 10);
    }

    /** Coordinates less the pivot, by the scale, turned clockwise, less the offset, and the pivot again. */
    private Optional<Texture.Placement> placed(Found place) {
        Optional<Integer> set = set(place);
        Optional<float[]> pivot = place.numbers("pivot", 0, 0);
        Optional<float[]> scale = place.numbers("scale", 1, 1);
        Optional<float[]> offset = place.numbers("offset", 0, 0);
        Optional<float[]> turn = place.numbers("rotate", 0);
        boolean usualOrder = place.numbers("operationorder", 0)
                .filter(order -> order[0] == 0)
                .isPresent();
        if (set.isEmpty() || !usualOrder || pivot.isEmpty() || scale.isEmpty() || offset.isEmpty() || turn.isEmpty()) {
            return Optional.empty();
        }
        float acrossU = 1 / scale.get()[0];
        float acrossV = 1 / scale.get()[1];
        if (!Float.isFinite(acrossU) || !Float.isFinite(acrossV)) {
            return Optional.empty();
        }
        Texture.Placement turned = new Texture.Placement(set.get(), acrossU, acrossV, -turn.get()[0], 0, 0);
        float[] p = turned.placed(pivot.get());
        return Optional.of(new Texture.Placement(
                set.get(),
                acrossU,
                acrossV,
                -turn.get()[0],
                pivot.get()[0] - offset.get()[0] - p[0],
                pivot.get()[1] - offset.get()[1] - p[1]));
    }
}
