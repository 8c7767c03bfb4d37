package pantry.exchange;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.Channel;
import pantry.mesh.Mesh;
import pantry.mesh.Shapes;
import pantry.model.Colour;
import pantry.model.Fixture;
import pantry.model.Material;
import pantry.model.Material.Slot;
import pantry.model.Model;
import pantry.model.Texture;

/** Something that files have and that converting them may lose; each is put into a plain thing, alone or with another. */
enum Feature {
    PLAIN(thing -> {}),
    TEXTURED(thing -> thing.image(Slot.BASE, "paint.png", Texture.Sampling.USUAL)),
    SECOND_UVS(thing -> {
        thing.more.put(Mesh.uvSet(1), thing.uvs(2, 0.25f));
        thing.image(Slot.BASE, "paint.png", Texture.Sampling.placed(Texture.Placement.on(1)));
        thing.image(Slot.OCCLUSION, "shade.png", Texture.Sampling.USUAL);
    }),
    PLACED_IMAGES(thing -> {
        thing.image(Slot.BASE, "paint.png", Texture.Sampling.placed(new Texture.Placement(0, 2, 3, 30, 0.25f, 0.5f)));
        thing.image(Slot.NORMAL, "bumps.png", Texture.Sampling.placed(new Texture.Placement(0, 5, 5, 0, 0, 0)));
    }),
    WRAPS(thing -> thing.image(
            Slot.BASE,
            "paint.png",
            Texture.Sampling.USUAL.with(Texture.Wrap.CLAMP, Texture.Wrap.MIRROR).with(new Texture.Filter(9728, 9984)))),
    NUMBERS(thing -> {
        thing.image(Slot.METALLIC, "numbers.png", Texture.Sampling.USUAL);
        thing.image(Slot.ROUGHNESS, "numbers.png", Texture.Sampling.USUAL);
        thing.image(Slot.NORMAL, "bumps.png", Texture.Sampling.USUAL.withStrength(0.5f));
        thing.image(Slot.OCCLUSION, "shade.png", Texture.Sampling.USUAL.withStrength(0.75f));
    }),
    GLOWING_IMAGE(thing -> {
        thing.image(Slot.EMISSIVE, "paint.png", Texture.Sampling.USUAL);
        thing.material = new Material(
                thing.material.name(),
                thing.material.base(),
                thing.material.opacity(),
                thing.material.metallic(),
                thing.material.roughness(),
                Colour.WHITE,
                thing.material.finish(),
                thing.material.textures());
    }),
    GLOWING(thing -> {
        thing.material = new Material(
                thing.material.name(),
                new Colour(0.25f, 0.5f, 0.75f),
                0.5f,
                1,
                0.25f,
                new Colour(0.5f, 0.25f, 0),
                Map.of());
    }),
    COLOURS(thing -> {
        thing.more.put(Mesh.COLOUR, thing.colours());
        thing.material = thing.material.onColoured();
    }),
    MIRRORED(thing -> thing.place = Matrix4.scale(new Vec3(-1, 1, 1)).times(thing.place)),
    SHEARED(thing -> thing.place = Matrix4.ofRows(new double[] {1, 0, 0, 0, 0.5, 1, 0, 0, 0, 0.25, 1, 0, 0, 0, 0, 1})
            .times(thing.place)),
    INSTANCED(thing -> thing.uses = 3),
    FOREIGN_NAMES(thing -> {
        thing.name = "Möwe 海鳥";
        thing.material = new Material(
                "Grün лак",
                thing.material.base(),
                1,
                0,
                0.5f,
                Colour.BLACK,
                thing.material.finish(),
                thing.material.textures());
    }),
    MISSING_IMAGE(thing ->
            thing.material = thing.material.with(Slot.NORMAL, new Texture("nowhere/gone.png", Optional.empty()))),
    TWO_SIDED(thing -> thing.mesh = thing.mesh.withDoubleSided(true)),
    TWO_MATERIALS(thing -> thing.split = true),
    POLYGONS(thing -> thing.mesh = Feature.polygons()),
    FIXTURES(thing -> {
        thing.fixtures.add(new Fixture.Light(
                "Work light",
                Matrix4.translation(new Vec3(0, 3, 0)),
                Fixture.Light.Kind.SPHERE,
                new Colour(1, 0.75f, 0.5f),
                40,
                180));
        thing.fixtures.add(new Fixture.Camera("Watch", Matrix4.translation(new Vec3(0, 1, 5)), 40, 1.5));
    }),
    NO_MATERIAL(thing -> thing.material = Material.PLAIN),
    FLAT_TRIANGLE(thing -> thing.mesh = Feature.withFlatTriangle(thing.mesh)),
    TINY(thing -> thing.place = Matrix4.scale(new Vec3(0.001, 0.001, 0.001)).times(thing.place)),
    HUGE(thing -> thing.place = Matrix4.scale(new Vec3(200, 200, 200)).times(thing.place));

    private final Consumer<Thing> put;

    Feature(Consumer<Thing> put) {
        this.put = put;
    }

    /** A thing that features are put into. */
    static final class Thing {
        private final Map<String, java.nio.file.Path> images;
        private final Map<String, Channel> more = new LinkedHashMap<>();
        private final List<Fixture> fixtures = new ArrayList<>();
        private Mesh mesh = Shapes.block(2, 1, 3);
        private Material material = Material.plain("Paint", new Colour(0.75f, 0.25f, 0.125f), 0, 0.5);
        private Matrix4 place = Matrix4.rotation(1, 30).times(Matrix4.translation(new Vec3(1, 2, 3)));
        private String name = "Crate";
        private int uses = 1;
        private boolean split;

        /** @param images by their names */
        Thing(Map<String, java.nio.file.Path> images) {
            this.images = images;
        }

        private void image(Slot slot, String image, Texture.Sampling sampling) {
            material = material.with(slot, new Texture(image, Optional.of(images.get(image)), sampling));
            if (slot == Slot.METALLIC || slot == Slot.ROUGHNESS) {
                material = new Material(
                        material.name(),
                        material.base(),
                        material.opacity(),
                        1,
                        1,
                        material.emissive(),
                        material.finish(),
                        material.textures());
            }
        }

        private Channel uvs(float scale, float move) {
            float[] data = mesh.uvs().orElseThrow().data().clone();
            for (int i = 0; i < data.length; i++) {
                data[i] = data[i] * scale + move;
            }
            return new Channel(data, 2, mesh.uvs().orElseThrow().per());
        }

        private Channel colours() {
            float[] data = new float[3 * mesh.pointCount()];
            for (int i = 0; i < data.length; i++) {
                data[i] = (i % 4) / 4f + 0.125f;
            }
            return new Channel(data, 3, Channel.Per.POINT);
        }

        private Mesh surface() {
            if (more.isEmpty()) {
                return mesh;
            }
            // Channels are of the plain mesh; on another they would not fit.
            Mesh plain = new Mesh(
                            mesh.points(),
                            mesh.faceSizes(),
                            mesh.corners(),
                            mesh.normals().orElse(null),
                            mesh.uvs().orElse(null))
                    .withLeftHanded(mesh.leftHanded())
                    .withPrimvars(more);
            return plain.withDoubleSided(mesh.doubleSided());
        }

        Model model() {
            Mesh surface = surface();
            List<Model.Part> parts = split
                    ? List.of(
                            new Model.Part(surface.faces(new int[] {0}), material),
                            new Model.Part(surface.faces(rest(surface, 1)), trim()))
                    : List.of(new Model.Part(surface, material));
            List<Model.Node> things = new ArrayList<>();
            for (int use = 0; use < uses; use++) {
                things.add(Model.Node.of(
                        uses == 1 ? name : name + " " + (use + 1),
                        place.times(Matrix4.translation(new Vec3(4 * use, 0, 0))),
                        parts,
                        List.of()));
            }
            Model.Node group = Model.Node.of("Yard", Matrix4.translation(new Vec3(0, 0.5, 0)), List.of(), things);
            return new Model("things", List.of(group), new Model.Extras(fixtures, 0, List.of()));
        }

        private Material trim() {
            Material trim = Material.plain("Trim", new Colour(0.125f, 0.5f, 0.25f), 1, 0.25);
            return more.containsKey(Mesh.COLOUR) ? trim.onColoured() : trim;
        }

        private static int[] rest(Mesh mesh, int from) {
            return java.util.stream.IntStream.range(from, mesh.faceCount()).toArray();
        }
    }

    /** A thing with some features, in their order. */
    static Model of(Map<String, java.nio.file.Path> images, Feature... features) {
        Thing thing = new Thing(images);
        List.of(features).stream()
                .sorted(java.util.Comparator.comparing(Feature::changesMesh).reversed())
                .forEach(feature -> feature.put.accept(thing));
        return thing.model();
    }

    /** Whether two can be in one thing: what has no material has no images either. */
    boolean goesWith(Feature other) {
        return !(this == NO_MATERIAL && other.isOfMaterial()) && !(other == NO_MATERIAL && isOfMaterial());
    }

    private boolean isOfMaterial() {
        return switch (this) {
            case TEXTURED,
                    SECOND_UVS,
                    PLACED_IMAGES,
                    WRAPS,
                    NUMBERS,
                    GLOWING,
                    GLOWING_IMAGE,
                    FOREIGN_NAMES,
                    MISSING_IMAGE,
                    COLOURS -> true;
            default -> false;
        };
    }

    private boolean changesMesh() {
        return this == POLYGONS
                || this == FLAT_TRIANGLE
                || this == TWO_SIDED
                || this == NO_MATERIAL
                || this == GLOWING
                || this == FOREIGN_NAMES;
    }

    /** An arrow, a plate with a hole whose rim is one face by a keyhole, and a pentagon. */
    private static Mesh polygons() {
        float[] points = {
            0, 0, 0, 2, 0, 0, 1, 0.5f, 0, 0, 2, 0, 3, 0, 0, 6, 0, 0, 6, 3, 0, 3, 3, 0, 4, 1, 0, 4, 2, 0, 5, 2, 0, 5, 1,
            0, 0, 3, 0, 1, 3, 0, 1.5f, 4, 0, 0.5f, 5, 0, -0.5f, 4, 0
        };
        int[] sizes = {4, 10, 5};
        int[] corners = {0, 1, 2, 3, 4, 5, 6, 7, 4, 8, 9, 10, 11, 8, 12, 13, 14, 15, 16};
        float[] uvs = new float[2 * (points.length / 3)];
        for (int i = 0; i < uvs.length; i++) {
            uvs[i] = points[i / 2 * 3 + i % 2] / 6;
        }
        return new Mesh(
                points,
                sizes,
                corners,
                new Channel(new float[] {0, 0, 1}, 3, Channel.Per.MESH),
                new Channel(uvs, 2, Channel.Per.POINT));
    }

    private static Mesh withFlatTriangle(Mesh mesh) {
        int faces = mesh.faceCount();
        int[] sizes = java.util.Arrays.copyOf(mesh.faceSizes(), faces + 1);
        sizes[faces] = 3;
        int at = mesh.corners().length;
        int[] corners = java.util.Arrays.copyOf(mesh.corners(), at + 3);
        // Three points on one line: the first edge's ends, and the first of them again.
        corners[at] = corners[0];
        corners[at + 1] = corners[1];
        corners[at + 2] = corners[0];
        Channel uvs = mesh.uvs().orElseThrow();
        boolean perCorner = uvs.per() == Channel.Per.CORNER;
        float[] data = perCorner ? java.util.Arrays.copyOf(uvs.data(), uvs.data().length + 6) : uvs.data();
        return new Mesh(mesh.points(), sizes, corners, null, new Channel(data, 2, uvs.per()));
    }
}
