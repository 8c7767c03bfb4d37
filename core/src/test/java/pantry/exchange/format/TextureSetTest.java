package pantry.exchange.format;

import static org.assertj.core.api.Assertions.assertThat;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import pantry.base.Progress;
import pantry.intake.Intake;
import pantry.intake.Listing;
import pantry.intake.Neighbours;
import pantry.intake.Slip;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.model.Facts;
import pantry.model.Material;
import pantry.model.Material.Slot;
import pantry.model.Texture;
import pantry.testing.WithWorkshop;

/** Images that make one material, told by their names; common practice of those who make such images. */
class TextureSetTest extends WithWorkshop {
    private Path image(String name) throws IOException {
        Path file = folder.resolve("in").resolve(name);
        Files.createDirectories(file.getParent());
        BufferedImage image = new BufferedImage(4, 4, BufferedImage.TYPE_INT_RGB);
        // Equal images would be kept once.
        image.setRGB(0, 0, name.hashCode());
        ImageIO.write(image, "png", file.toFile());
        return file;
    }

    private List<Path> images(String... names) throws IOException {
        List<Path> files = new ArrayList<>();
        for (String name : names) {
            files.add(image(name));
        }
        return files;
    }

    private static Map<Slot, Texture> only(TextureSet set) {
        assertThat(set.bySize()).hasSize(1);
        return set.bySize().values().iterator().next();
    }

    @ParameterizedTest
    @CsvSource({
        "planks_basecolor, planks_normal, Planks",
        "planks-Base-Color, planks-Normal-GL, Planks",
        "OldPlanksAlbedo, OldPlanksNormal, Old planks",
        "old planks diff 2k, old planks nor_gl 2k, Old planks",
        "T_Hull_2K_Color, T_Hull_2K_NormalGL, T hull",
        "basecolor, roughness, In",
    })
    void namesAreTheSameButForWhatTheImagesAreFor(String base, String other, String title) throws IOException {
        List<TextureSet> sets = TextureSet.among(images(base + ".png", other + ".png"));
        assertThat(sets).hasSize(1);
        assertThat(sets.getFirst().name()).isEqualTo(title);
        assertThat(sets.getFirst().leader().getFileName()).hasToString(base + ".png");
        assertThat(only(sets.getFirst())).hasSize(2).containsKey(Slot.BASE);
    }

    /** Sets often have normals and heights of more bits in another format. */
    @Test
    void imagesOfOneSetMayBeOfDifferentFormats() throws IOException {
        List<TextureSet> sets = TextureSet.among(images("rock_diff_1k.jpg", "rock_nor_gl_1k.exr", "rock_rough_1k.exr"));
        assertThat(sets).hasSize(1);
        assertThat(only(sets.getFirst()).keySet()).containsExactlyInAnyOrder(Slot.BASE, Slot.NORMAL, Slot.ROUGHNESS);
    }

    @Test
    void eachImageDrivesWhatItsNameSays() throws IOException {
        TextureSet set = TextureSet.among(images(
                        "hull_albedo.png",
                        "hull_arm.png",
                        "hull_normal.png",
                        "hull_normal_dx.png",
                        "hull_height.png",
                        "hull_opacity.png",
                        "hull_emissive.png"))
                .getFirst();
        Map<Slot, Texture> textures = only(set);
        assertThat(textures.get(Slot.ROUGHNESS)).isEqualTo(textures.get(Slot.METALLIC));
        assertThat(textures.get(Slot.OCCLUSION).name()).isEqualTo("hull_arm.png");
        assertThat(textures.get(Slot.NORMAL).name()).isEqualTo("hull_normal.png");
        assertThat(textures.get(Slot.OPACITY).sampling().channel()).isEqualTo(Texture.Channel.RED);
        assertThat(set.unused())
                .extracting(file -> file.getFileName().toString())
                .containsExactly("hull_normal_dx.png");
        assertThat(textures.get(Slot.DISPLACEMENT).name()).isEqualTo("hull_height.png");
        assertThat(textures.get(Slot.DISPLACEMENT).sampling().strength()).isEqualTo(HeightImages.USUAL);
        Material material = set.materials().get("usual");
        assertThat(material.roughness()).isEqualTo(1);
        assertThat(material.metallic()).isEqualTo(1);
        assertThat(set.files()).hasSize(7);
    }

    @Test
    void whatOnlyLooksLikeASetIsNone() throws IOException {
        assertThat(TextureSet.among(images("planks_color.png", "bricks_normal.png")))
                .isEmpty();
        assertThat(TextureSet.among(images("planks_normal.png", "planks_roughness.png")))
                .as("nothing tells its colour")
                .isEmpty();
        assertThat(TextureSet.among(images("map.png", "chart.png", "sea_chart_2k.png")))
                .isEmpty();
        assertThat(TextureSet.around(image("alone/planks_color.png"))).isEmpty();
    }

    @Test
    void severalSizesAreLooksOfOneMaterial() throws IOException {
        images("planks_1k_color.png", "planks_1k_normal.png", "planks_4k_color.png", "planks_4k_normal.png");
        Listing listing = Listing.of(List.of(folder.resolve("in")), Progress.NONE);
        assertThat(listing.entries()).singleElement().satisfies(entry -> assertThat(entry.file())
                .hasFileName("planks_4k_color.png"));
        Imported read = workshop.readers().read(listing.entries().getFirst().file(), Progress.NONE);
        assertThat(read.holds()).isEqualTo(Imported.Holds.MATERIALS);
        assertThat(read.model().looks()).containsExactly("at 4k", "at 1k");
        Slip slip = Intake.suggested(read, "Woods", Neighbours.on(library, "Woods"));
        assertThat(slip.name()).isEqualTo("Planks");
        assertThat(slip.kind()).isEqualTo(AssetKind.MATERIAL);
        Asset asset = workshop.intake()
                .shelve(read, slip, library, Progress.NONE)
                .published()
                .asset();
        assertThat(asset.facts("v001").variants().get("look")).containsExactly("at_4k", "at_1k");
        assertThat(asset.facts("v001").textures()).hasSize(4).allMatch(Facts.TextureFact::found);
        try (Stream<Path> kept = Files.list(asset.folder().resolve("v001/data/textures"))) {
            assertThat(kept).hasSize(4);
        }
        assertThat(asset.card().kind()).isEqualTo(AssetKind.MATERIAL);
    }

    @Test
    void theImagesCanBeTakenEachByItself() throws IOException {
        List<Path> files = images("planks_color.png", "planks_normal.png", "planks_height.png", "chart.png");
        assertThat(Listing.of(files, Progress.NONE).entries()).hasSize(2);
        assertThat(Listing.of(files, false, Progress.NONE).entries()).hasSize(4);
        Imported together = workshop.readers().read(files.getFirst(), Progress.NONE);
        assertThat(together.model().extras().foreign()).isEmpty();
        assertThat(together.model().materials()).allSatisfy(material -> assertThat(material.texture(Slot.DISPLACEMENT))
                .isPresent());
        assertThat(workshop.readers().readAlone(files.getFirst(), Progress.NONE).holds())
                .isEqualTo(Imported.Holds.IMAGE);
        assertThat(workshop.readers().read(files.get(1), Progress.NONE).holds())
                .as("what leads no set is shown as it is")
                .isEqualTo(Imported.Holds.IMAGE);
        assertThat(TextureSet.title(files.get(3))).isEqualTo(Optional.empty());
    }
}
