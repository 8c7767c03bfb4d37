package pantry.scene;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import pantry.base.Names;
import pantry.exchange.format.Samples;
import pantry.exchange.usd.UsdModelReader;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.Model;
import pantry.model.Texture;
import pantry.usd.SdfPath;
import pantry.usd.Value;
import pantry.usd.compose.Stage;

/**
 * The two sides of a name that a scene and what is brought in both have.
 *
 * @param own what the scene says, in a few words
 * @param incoming what comes in, in a few words
 * @param ownShown what can be seen of the scene's: a material on a ball; empty where that is nothing
 * @param incomingShown as {@code ownShown}
 * @param differences in words, the scene's first
 */
public record ConflictSides(
        String own,
        String incoming,
        Optional<Model> ownShown,
        Optional<Model> incomingShown,
        List<String> differences) {
    private static final int MOST_NAMES = 6;

    /**
     * Looks at both sides.
     *
     * @param chosen what would be brought in
     */
    public static ConflictSides of(
            Scene scene, ImportSource source, Set<SdfPath> chosen, SceneImport.Conflict conflict) {
        return switch (conflict.what()) {
            case MATERIAL -> ofMaterials(scene, source, conflict);
            case GROUP -> {
                int there = scene.spec(conflict.own())
                        .map(prim -> prim.childNames().size())
                        .orElse(0);
                yield new ConflictSides(
                        Names.counted(there, "thing"),
                        Names.counted(chosen.size(), "thing"),
                        Optional.empty(),
                        Optional.empty(),
                        List.of());
            }
            case DRAWER -> ofDrawers(scene, source, chosen, conflict);
            case ALTERNATES -> ofAlternates(scene, source, conflict);
            case SETTING -> {
                String own = words(scene.own().layer().metadata().get(conflict.name()));
                String incoming = words(source.layer().metadata().get(conflict.name()));
                yield new ConflictSides(own, incoming, Optional.empty(), Optional.empty(), List.of());
            }
        };
    }

    private static String words(Value value) {
        return value instanceof Value.Real(double number) ? plain(number) : String.valueOf(value);
    }

    private static String plain(double number) {
        return String.format(Locale.ROOT, "%.3f", number).replaceAll("0+$", "").replaceAll("\\.$", "");
    }

    private static ConflictSides ofDrawers(
            Scene scene, ImportSource source, Set<SdfPath> chosen, SceneImport.Conflict conflict) {
        Set<SdfPath> own = scene.drawers().members(Set.of(conflict.name()));
        List<SdfPath> incoming = source.drawers(chosen).getOrDefault(conflict.name(), List.of());
        Set<String> here = names(own);
        Set<String> there = names(incoming);
        List<String> differences = new ArrayList<>();
        only("only in the scene's", here, there).ifPresent(differences::add);
        only("only in the incoming", there, here).ifPresent(differences::add);
        return new ConflictSides(
                Names.counted(own.size(), "thing"),
                Names.counted(incoming.size(), "thing"),
                Optional.empty(),
                Optional.empty(),
                differences);
    }

    private static Set<String> names(Iterable<SdfPath> paths) {
        Set<String> names = new LinkedHashSet<>();
        paths.forEach(path -> names.add(path.name().replace('_', ' ')));
        return names;
    }

    private static Optional<String> only(String where, Set<String> some, Set<String> others) {
        List<String> left = some.stream().filter(name -> !others.contains(name)).toList();
        return left.isEmpty()
                ? Optional.empty()
                : Optional.of(where + ": "
                        + left.stream().limit(MOST_NAMES).collect(Collectors.joining(", "))
                        + (left.size() > MOST_NAMES ? " and " + (left.size() - MOST_NAMES) + " more" : ""));
    }

    private static ConflictSides ofAlternates(Scene scene, ImportSource source, SceneImport.Conflict conflict) {
        String own = scene.alternates().all().stream()
                .filter(set -> set.name().equals(conflict.name()))
                .map(set -> String.join(", ", set.alternates()))
                .findFirst()
                .orElse("");
        ImportSource.Switched incoming = source.alternates().get(conflict.name());
        return new ConflictSides(
                own,
                incoming == null
                        ? ""
                        : incoming.alternate() + ", "
                                + Names.counted(incoming.members().size(), "thing"),
                Optional.empty(),
                Optional.empty(),
                List.of());
    }

    private static ConflictSides ofMaterials(Scene scene, ImportSource source, SceneImport.Conflict conflict) {
        Optional<Material> own = material(scene.stage(), conflict.own());
        Optional<Material> incoming = material(source.stage(), conflict.incoming());
        List<String> differences =
                own.isPresent() && incoming.isPresent() ? differences(own.get(), incoming.get()) : List.of();
        return new ConflictSides(
                own.map(ConflictSides::colour).orElse(""),
                incoming.map(ConflictSides::colour).orElse(""),
                own.map(each -> Samples.balls(conflict.name(), List.of(each))),
                incoming.map(each -> Samples.balls(conflict.name(), List.of(each))),
                differences.isEmpty() ? List.of("they look alike; what differs is not drawn") : differences);
    }

    private static Optional<Material> material(Stage stage, SdfPath path) {
        return stage.prim(path).map(prim -> UsdModelReader.material(stage, prim));
    }

    private static String colour(Material material) {
        return material.texture(Material.Slot.BASE).map(Texture::name).orElseGet(() -> hex(material.base()));
    }

    private static String hex(Colour colour) {
        return String.format(
                Locale.ROOT,
                "#%02x%02x%02x",
                Colour.display(colour.r()),
                Colour.display(colour.g()),
                Colour.display(colour.b()));
    }

    /** What of two materials differs, in words. */
    static List<String> differences(Material own, Material incoming) {
        List<String> found = new ArrayList<>();
        add(found, "colour", hex(own.base()), hex(incoming.base()));
        add(found, "opacity", plain(own.opacity()), plain(incoming.opacity()));
        add(found, "metallic", plain(own.metallic()), plain(incoming.metallic()));
        add(found, "roughness", plain(own.roughness()), plain(incoming.roughness()));
        add(found, "emission", hex(own.emissive()), hex(incoming.emissive()));
        if (!own.finish().equals(incoming.finish())) {
            found.add("clear coat, refraction or cut-out");
        }
        for (Material.Slot slot : Material.Slot.values()) {
            String here = own.texture(slot).map(Texture::name).orElse("none");
            String there = incoming.texture(slot).map(Texture::name).orElse("none");
            boolean sameName = here.equals(there);
            boolean same = own.texture(slot)
                    .flatMap(Texture::file)
                    .equals(incoming.texture(slot).flatMap(Texture::file));
            if (!sameName) {
                add(found, "image of its " + word(slot), here, there);
            } else if (!same) {
                found.add("image of its " + word(slot) + ", both called " + here);
            }
        }
        return found;
    }

    private static String word(Material.Slot slot) {
        return slot == Material.Slot.BASE
                ? "colour"
                : Names.identifier(slot.name().toLowerCase(Locale.ROOT));
    }

    private static void add(List<String> found, String what, String own, String incoming) {
        if (!own.equals(incoming)) {
            found.add(what + " " + own + ", not " + incoming);
        }
    }
}
